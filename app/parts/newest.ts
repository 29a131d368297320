/**
 * Makes of a question, and of what takes its answer, one function that asks and hands the answer over, unless it was asked
 * again meanwhile: answers may come in another order than their questions went. Whoever asked before waits until the newest
 * answer was taken: what they asked for is there then.
 */
export function newest<Asked extends unknown[], Answer>(ask: (...asked: Asked) => Promise<Answer>, take: (answer: Answer, ...asked: Asked) => void): (...asked: Asked) => Promise<void> {
  let last: Promise<void> | undefined
  return (...asked) => {
    const own: Promise<void> = ask(...asked).then(answer => last === own ? take(answer, ...asked) : last)
    last = own
    return own
  }
}
