import { describe, expect, it } from 'vitest'
import { newest } from './newest'

describe('newest', () => {
  it('lets only the answer to the last question count, whenever it comes', async () => {
    const answers: ((answer: string) => void)[] = []
    const taken: string[] = []
    const ask = newest((_name: string) => new Promise<string>(resolve => answers.push(resolve)), (answer, name) => taken.push(`${name}: ${answer}`))
    const both = [ask('first'), ask('second')]
    answers[1]!('new')
    answers[0]!('old')
    await Promise.all(both)
    expect(taken).toEqual(['second: new'])
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
