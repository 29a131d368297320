/**
 * Makes of a question, and of what takes its answer, one function that asks and hands the answer over, unless it was asked
 * again meanwhile: answers may come in another order than their questions went.
 */
export function newest<Asked extends unknown[], Answer>(ask: (...asked: Asked) => Promise<Answer>, take: (answer: Answer, ...asked: Asked) => void): (...asked: Asked) => Promise<void> {
  let turn = 0
  return async (...asked) => {
    const own = ++turn
    const answer = await ask(...asked)
    if (own === turn) take(answer, ...asked)
  }
}
