import { describe, expect, it } from 'vitest'
import { fitting } from './givingWay'

const COLUMNS = [{ key: 'name', width: 100 }, { key: 'length', width: 60, weight: 3 }, { key: 'tags', width: 120, weight: 1 }, { key: 'kind', width: 90, weight: 2 }]
const keys = (room: number) => fitting(COLUMNS, room).map(({ key }) => key)

describe('columns of a ledger', () => {
  it('give way by weight, the lightest first, in their order; what has none stays', () => {
    expect(keys(370)).toEqual(['name', 'length', 'tags', 'kind'])
    expect(keys(369)).toEqual(['name', 'length', 'kind'])
    expect(keys(200)).toEqual(['name', 'length'])
    expect(keys(50)).toEqual(['name'])
  })

  it('are all there as long as the room is not known', () => {
    expect(keys(0)).toHaveLength(4)
  })
})
