import { describe, expect, it } from 'vitest'
import { newest } from './newest'

describe('newest', () => {
  /** A question that is answered by hand, and what was taken of the answers. */
  function asking() {
    const answers: ((answer: string) => void)[] = []
    const taken: string[] = []
    const ask = newest((_name: string) => new Promise<string>(resolve => answers.push(resolve)), (answer, name) => taken.push(`${name}: ${answer}`))
    return { answers, taken, ask }
  }

  it('lets only the answer to the last question count, whenever it comes', async () => {
    const { answers, taken, ask } = asking()
    const both = [ask('first'), ask('second')]
    answers[1]!('new')
    answers[0]!('old')
    await Promise.all(both)
    expect(taken).toEqual(['second: new'])
  })

  it('lets whoever asked before wait for it: they find what they asked for', async () => {
    const { answers, taken, ask } = asking()
    const found = ask('first').then(() => [...taken])
    const asked = ask('second')
    const third = ask('third')
    answers[0]!('old')
    await new Promise(resolve => setTimeout(resolve))
    expect(taken).toEqual([])
    answers[1]!('newer')
    answers[2]!('newest')
    expect(await found).toEqual(['third: newest'])
    await Promise.all([asked, third])
    expect(taken).toEqual(['third: newest'])
  })

  it('tells whoever asked what went wrong, and goes on', async () => {
    const taken: number[] = []
    let isBroken = true
    const ask = newest(async () => {
      if (isBroken) throw new Error('The server does not answer.')
      return 7
    }, answer => taken.push(answer))
    await expect(ask()).rejects.toThrow('does not answer')
    isBroken = false
    await ask()
    expect(taken).toEqual([7])
  })
})
