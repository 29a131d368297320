import { NAME_LENGTHS, type Named } from '~~/core/nameLengths'

/** What is shown when a name is asked for. */
export interface NameQuestion {
  readonly title: string
  readonly text?: string
  /** What the name is so far, or could be. */
  readonly value: string
  /** What the button does that takes it. */
  readonly does: string
  readonly of: Named
}

/** Why a name cannot be taken; undefined for one that can. */
export function nameProblem(name: string, of: Named): string | undefined {
  const { length } = name.trim()
  const most = NAME_LENGTHS[of]
  if (length === 0) return 'It needs a name.'
  return length > most ? `A name has up to ${most} characters; this one has ${length}.` : undefined
}

/** Asks for a name until it is one; undefined where it is left. */
export async function askName({ title, text = '', value, does, of }: NameQuestion): Promise<string | undefined> {
  const answer = await ElMessageBox.prompt(text, title, {
    confirmButtonText: does, cancelButtonText: 'Cancel', inputValue: value.slice(0, NAME_LENGTHS[of]), inputValidator: name => nameProblem(name, of) ?? true,
  }).catch(() => undefined)
  return answer && 'value' in answer ? answer.value.trim() : undefined
}
