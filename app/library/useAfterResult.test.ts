import { beforeEach, describe, expect, it, vi } from 'vitest'
import { useAfterResult } from './useAfterResult'

const library = vi.hoisted(() => ({ isBusy: false, answer: (): void => undefined, settled: async (): Promise<void> => undefined }))
vi.mock('./library', () => ({ useLibrary: () => library }))

const key = (name: string) => ({ key: name }) as KeyboardEvent
const done: string[] = []
const act = (event: KeyboardEvent) => done.push(event.key)

function ask(): void {
  library.isBusy = true
  const answered = new Promise<void>(resolve => library.answer = resolve).then(() => {
    library.isBusy = false
  })
  library.settled = () => answered
}

beforeEach(() => {
  done.length = 0
  library.isBusy = false
})

describe('what acts on the list', () => {
  it('acts at once where the list is what was asked for, and gives back what it gave', () => {
    expect(useAfterResult()(() => false)(key('p'))).toBe(false)
    useAfterResult()(act)(key('p'))
    expect(done).toEqual(['p'])
  })

  it('waits for the list that was asked for, in the order of the keys', async () => {
    const after = useAfterResult()
    ask()
    after(act)(key('ArrowDown'))
    after(act)(key('p'))
    await Promise.resolve()
    expect(done).toEqual([])
    library.answer()
    await vi.waitFor(() => expect(done).toEqual(['ArrowDown', 'p']))
    after(act)(key('f'))
    expect(done).toEqual(['ArrowDown', 'p', 'f'])
  })

  it('waits on where something else was asked for meanwhile', async () => {
    const after = useAfterResult()
    ask()
    after(act)(key('p'))
    const first = library.answer
    ask()
    first()
    await new Promise(resolve => setTimeout(resolve))
    expect(done).toEqual([])
    library.answer()
    await vi.waitFor(() => expect(done).toEqual(['p']))
  })
})
