import { expect, it } from 'vitest'
import { useLongList } from './useLongList'

const LINES = Array.from({ length: 450 }, (_, i) => `line ${i}`)

it('holds the first lines, and more as they are asked for, until all are here', async () => {
  const list = useLongList(async ({ limit, offset }) => ({ total: LINES.length, shown: LINES.slice(offset, offset + limit) }))
  expect([list.total, list.next, list.last]).toEqual([0, 0, undefined])
  await list.load()
  expect([list.shown.length, list.total, list.next]).toEqual([200, 450, 200])
  await list.more()
  expect(list.next).toBe(50)
  await list.more()
  expect(list.shown).toEqual(LINES)
  expect(list.next).toBe(0)
  await list.load()
  expect(list.shown).toEqual(LINES)
})

it('fetched anew while the list is another, holds what there is now', async () => {
  let lines = LINES
  const list = useLongList(async ({ limit, offset }) => ({ total: lines.length, shown: lines.slice(offset, offset + limit) }))
  await list.load()
  await list.more()
  lines = ['a line before', ...LINES.slice(0, 210)]
  await list.load()
  expect(list.shown).toEqual(lines)
  expect([list.total, list.next]).toEqual([211, 0])
})

it('asked twice for more, adds it once', async () => {
  const answers: (() => void)[] = []
  const list = useLongList<string>(async ({ limit, offset }) => {
    await new Promise<void>(done => answers.push(done))
    return { total: LINES.length, shown: LINES.slice(offset, offset + limit) }
  }, 10)
  const answered = async (work: Promise<void>[]) => {
    for (const answer of answers.splice(0)) answer()
    await Promise.all(work)
  }
  await answered([list.load()])
  await answered([list.more(), list.more()])
  expect(list.shown).toEqual(LINES.slice(0, 20))
})
