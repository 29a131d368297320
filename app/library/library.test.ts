import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { madeRow } from '../../tests/helpers/rows'
import { freshStores, asRequest, type Ask } from '../../tests/helpers/stores'
import { useLibrary } from './library'

const TOTAL = 1000

/** Searches in the order in which they were asked, each answered when it is told to. */
let asked: { q: string, offset: number, sort: string, source?: number, answer: () => void }[] = []
let total = TOTAL
const others: string[] = []
/** Answers where a sound stands in the list, when a test holds that back. */
let answerPlace: ((index: number) => void) | undefined
let isPlaceHeld = false

const ask: Ask = (path, { query, body } = {}) => {
  if (path === '/api/sounds') {
    const { q, offset, limit, sort, source } = query as { q: string, offset: number, limit: number, sort: string, source?: number }
    return new Promise((resolve) => {
      asked.push({ q, offset, sort, source, answer: () => resolve({ total, counts: { words: total, kind: 0, near: 0 }, rows: Array.from({ length: Math.max(0, Math.min(limit, total - offset)) }, (_, i) => madeRow(offset + i, { name: `${q} ${offset + i}` })) }) })
    })
  }
  if (path === '/api/sounds/place' && isPlaceHeld) return new Promise(resolve => answerPlace = index => resolve({ index }))
  others.push(`${path} ${JSON.stringify(body ?? {})}`)
  if (path === '/api/sounds/ids') return Promise.resolve({ ids: (body as { stretches: [number, number][] }).stretches.flatMap(([from, to]) => Array.from({ length: to - from + 1 }, (_, i) => from + i)) })
  return Promise.resolve({ facets: { kinds: [] }, hidden: { aside: 3, elsewhere: 0, byPart: [] } })
}

vi.mock('../parts/useApi', () => ({ api: (...all: Parameters<typeof asRequest>) => ask(...asRequest(...all)) }))
/** Tells the store that something happened at the server. */
let tell: (event: { type: string }) => void = () => undefined
vi.mock('../parts/useServerEvents', () => ({ onServerEvent: (listener: typeof tell) => tell = listener, onReconnected: () => undefined }))
vi.mock('../parts/useSay', () => ({ sayError: (thrown: unknown) => {
  throw thrown
} }))

const soon = () => new Promise(done => setTimeout(done))

/** Answers all that is asked until nothing more is. */
async function answerAll(): Promise<void> {
  for (let i = 0; i < 12; i++) {
    await soon()
    const now = asked
    asked = []
    for (const { answer } of now) answer()
  }
}

async function shown(q = '') {
  const library = useLibrary()
  library.search.q = q
  void library.start()
  await answerAll()
  return library
}

beforeEach(() => {
  freshStores()
  asked = []
  others.length = 0
  isPlaceHeld = false
  answerPlace = undefined
  total = TOTAL
})

describe('what is typed', () => {
  it('is asked for one at a time, and the last of it is what is shown', async () => {
    const library = await shown()
    library.search.q = 'k'
    await soon()
    library.search.q = 'ki'
    library.search.q = 'kick'
    await soon()
    expect(asked.map(({ q }) => q)).toEqual(['k'])
    await answerAll()
    expect(library.rows.get(0)?.name).toBe('kick 0')
    expect(library.isBusy).toBe(false)
  })

  it('leaves the list alone while it can\'t be understood', async () => {
    const library = await shown('snare')
    library.search.q = 'snare length<'
    await answerAll()
    expect(library.rows.get(0)?.name).toBe('snare 0')
    library.search.q = 'snare length<2'
    await answerAll()
    expect(library.rows.get(0)?.name).toBe('snare length<2 0')
  })

  it('that can\'t be understood is asked for nowhere: rows, ids and what changes are those of the list that is shown', async () => {
    const library = await shown('snare')
    library.search.q = 'snare like=7 ['
    await answerAll()
    void library.need(110, 140)
    await soon()
    expect(asked.map(({ q, offset }) => [q, offset])).toEqual([['snare', 100]])
    await answerAll()
    library.moveTo(990)
    await library.fetchChosenIds()
    expect(others.findLast(one => one.startsWith('/api/sounds/ids'))).toContain('"q":"snare"')
    tell({ type: 'library' })
    await vi.waitFor(() => expect(asked.map(({ q }) => q)).toEqual(['snare']))
    await answerAll()
    expect([library.search.q, library.rows.get(990)?.name]).toEqual(['snare like=7 [', 'snare 990'])
  })

  it('that can\'t be understood is no bar to another order or place: what is shown is sorted, and looked for there', async () => {
    const library = await shown('snare')
    library.search.q = 'snare ['
    await soon()
    expect(asked).toEqual([])
    library.sortBy('loudness')
    await soon()
    expect(asked).toMatchObject([{ q: 'snare', sort: 'loudness' }])
    await answerAll()
    library.lookIn({ source: 3 })
    await soon()
    expect(asked).toMatchObject([{ q: 'snare', sort: 'loudness', source: 3 }])
    await answerAll()
    library.search.q = 'snare [['
    await soon()
    expect([asked, library.isBusy]).toEqual([[], false])
  })

  it('that was kept and can\'t be understood does not keep the list from coming', async () => {
    const library = useLibrary()
    library.search.q = 'snare ['
    void library.start()
    await answerAll()
    expect([library.loaded, library.rows.get(0)?.name]).toEqual([true, ' 0'])
  })

  it('shows something now and then, however fast it goes on', async () => {
    const library = await shown()
    const seen = new Set<string>()
    for (const q of ['a', 'ab', 'abc', 'abcd', 'abcde', 'abcdef']) {
      library.search.q = q
      await soon()
      library.search.q = `${q}x`
      asked.shift()?.answer()
      await soon()
      seen.add(library.rows.get(0)!.name)
    }
    expect(seen.size).toBeGreaterThan(1)
  })

  it('takes the cursor to the top and lets go of what was chosen', async () => {
    const library = await shown()
    library.moveTo(40)
    library.moveTo(44, true)
    expect(library.chosenCount).toBe(5)
    library.search.q = 'hat'
    await answerAll()
    expect([library.cursor, library.chosenCount]).toEqual([0, 1])
  })
})

describe('what changes at the server', () => {
  beforeEach(() => void vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] }))
  afterEach(() => void vi.useRealTimers())

  /** Answers what is asked while the time given passes. */
  async function pass(ms: number): Promise<void> {
    await vi.advanceTimersByTimeAsync(ms)
    const now = asked
    asked = []
    for (const { answer } of now) answer()
    await vi.advanceTimersByTimeAsync(0)
  }

  async function shownNow(q: string) {
    const library = useLibrary()
    library.search.q = q
    await pass(0)
    expect(library.rows.get(0)?.name).toBe(`${q} 0`)
    return library
  }

  it('is fetched anew, once for many changes, with the cursor where it was', async () => {
    const library = await shownNow('kick')
    library.moveTo(60)
    total = TOTAL + 5
    for (let i = 0; i < 20; i++) tell({ type: 'library' })
    await vi.advanceTimersByTimeAsync(1000)
    expect(asked).toHaveLength(1)
    await pass(0)
    expect([library.total, library.cursor, library.isBusy]).toEqual([TOTAL + 5, 60, false])
  })

  it('does not pass over what somebody asks for at that moment: it is busy until that is shown', async () => {
    const library = await shownNow('kick')
    tell({ type: 'library' })
    await vi.advanceTimersByTimeAsync(300)
    library.search.q = 'rim'
    // The search is on its way when the list would be fetched anew.
    await vi.advanceTimersByTimeAsync(1000)
    expect(asked.map(({ q }) => q)).toEqual(['rim'])
    expect(library.isBusy).toBe(true)
    await pass(0)
    expect([library.rows.get(0)?.name, library.isBusy]).toEqual(['rim 0', false])
    await pass(2000)
    expect(library.rows.get(0)?.name).toBe('rim 0')
  })

  it('does not take the cursor of a new result to where the sound of the one before stands in it', async () => {
    const library = await shownNow('kick')
    isPlaceHeld = true
    tell({ type: 'library' })
    await vi.advanceTimersByTimeAsync(1000)
    library.search.q = 'kick bright<30'
    await pass(0)
    answerPlace!(22)
    await pass(0)
    expect([library.rows.get(0)?.name, library.cursor]).toEqual(['kick bright<30 0', 0])
    isPlaceHeld = false
    await pass(2000)
    expect([library.rows.get(0)?.name, library.cursor]).toEqual(['kick bright<30 0', 0])
  })
})

describe('rows', () => {
  it('are fetched around what is in sight, each part once', async () => {
    const library = await shown()
    void library.need(110, 140)
    await answerAll()
    expect([60, 100, 149, 150, 199].map(index => library.rows.has(index))).toEqual([true, true, true, true, true])
    void library.need(110, 140)
    await soon()
    expect(asked).toEqual([])
  })

  it('that are on their way are waited for', async () => {
    const library = await shown()
    void library.need(500, 520)
    const coming = library.fetchRow(510)
    await answerAll()
    expect((await coming)?.name).toBe(' 510')
  })

  it('far from the cursor are forgotten, and fetched again when they are wanted', async () => {
    total = 100_000
    const library = await shown()
    for (let from = 0; from < 20_000; from += 150) {
      void library.need(from, from + 30)
      await answerAll()
    }
    expect(library.rows.size).toBeLessThan(10_000)
    expect(library.rows.has(19_950)).toBe(true)
    const again = library.fetchRow(10)
    await answerAll()
    expect((await again)?.name).toBe(' 10')
  }, 60_000)
})

describe('the cursor and what is chosen', () => {
  it('after a search the first step down is to the first sound, and from there on to the next', async () => {
    const library = await shown()
    expect(library.after(1)).toBe(1)
    await shown('kick')
    expect([library.cursor, library.after(1), library.after(20)]).toEqual([0, 0, 20])
    library.moveTo(library.after(1))
    expect([library.cursor, library.after(1)]).toEqual([0, 1])
  })

  it('stays within the list', async () => {
    const library = await shown()
    library.moveTo(-5)
    expect(library.cursor).toBe(0)
    library.moveTo(Infinity)
    expect(library.cursor).toBe(TOTAL - 1)
  })

  it('chooses stretches and single rows, and lets go at a plain move', async () => {
    const library = await shown()
    library.moveTo(3)
    library.moveTo(6, true)
    library.toggle(20)
    library.toggle(4)
    expect([...library.chosen].sort((a, b) => a - b)).toEqual([3, 5, 6, 20])
    library.moveTo(7)
    expect(library.chosen.size).toBe(0)
  })

  it('gives the chosen sounds in their order, also those that are not in the page', async () => {
    const library = await shown()
    library.moveTo(899)
    library.moveTo(903, true)
    library.toggle(2)
    const rows = library.fetchChosen()
    await answerAll()
    expect((await rows).map(row => row.id)).toEqual([2, 899, 900, 901, 902, 903])
    expect(await library.fetchChosenIds()).toEqual([2, 899, 900, 901, 902, 903])
  })

  it('asks for the ids of a whole result as one stretch', async () => {
    const library = await shown()
    library.chooseAll()
    expect(await library.fetchChosenIds()).toHaveLength(TOTAL)
    expect(others.at(-1)).toContain(`"stretches":[[0,${TOTAL - 1}]]`)
  })
})

describe('where is looked, and in which order', () => {
  it('narrows to the source and the folder of the current sound, and widens again', async () => {
    const library = await shown()
    const place = () => [library.search.source, library.search.folder]
    library.narrow()
    expect(place()).toEqual([1, undefined])
    await answerAll()
    library.narrow()
    expect(place()).toEqual([1, 'Deck/Bow'])
    library.widen()
    expect(place()).toEqual([1, 'Deck'])
    library.widen()
    expect(place()).toEqual([1, undefined])
    library.widen()
    expect(place()).toEqual([undefined, undefined])
  })

  it('sorts by a figure, the other way round the second time, loud ones first', async () => {
    const library = await shown()
    library.sortBy('loudness')
    expect([library.search.sort, library.search.descending]).toEqual(['loudness', true])
    library.sortBy('loudness')
    expect(library.search.descending).toBe(false)
    library.sortBy('length')
    expect([library.search.sort, library.search.descending]).toEqual(['length', false])
  })

  it('keeps the order when the search is cleared', async () => {
    const library = await shown('kick')
    library.sortBy('length')
    library.lookIn({ source: 1, folder: 'Deck' })
    library.clearFilters()
    expect([library.search.q, library.search.source, library.search.folder, library.search.sort]).toEqual(['', undefined, undefined, 'length'])
  })

  it('puts a condition in place of another of its name', async () => {
    const library = await shown('kick bright<40')
    library.setCondition('bright', 'bright<20')
    expect(library.search.q).toBe('kick bright<20')
    library.setCondition('bright', undefined)
    expect(library.search.q).toBe('kick')
  })
})
