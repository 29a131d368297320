import { CLASSES } from '../core/audio/kinds/classes'
import type { Labelled } from './openSets'

/** One recording that was judged by networks which had not heard it. */
export interface Judged {
  readonly set: string
  readonly name: string
  readonly label: string
  readonly told: string
  readonly confidence: number
}

/** Each network that judges leaves out another of so many parts of the recordings. */
export const FOLDS = 4

/** The part that a recording belongs to: told by its name, so that it stays the same one. */
export function foldOf({ set, name }: Pick<Labelled, 'set' | 'name'>): number {
  let sum = 7
  for (const character of `${set}/${name}`) sum = (Math.imul(sum, 31) + character.charCodeAt(0)) >>> 0
  return (sum >>> 8) % FOLDS
}

export interface Report {
  readonly heldOut: readonly Judged[]
  readonly withoutPatches: readonly Judged[]
  readonly withoutBank: readonly Judged[]
  readonly byMadeAlone: readonly Judged[]
  readonly made: number
  readonly recordings: number
}

/** Part of what was judged that was recognised correctly. */
export function accuracy(judged: readonly Judged[]): number {
  return judged.filter(entry => entry.told === entry.label).length / judged.length
}

/** The page on how well kinds are recognised by ear. */
export function reportOf({ heldOut, withoutPatches, withoutBank, byMadeAlone, made, recordings }: Report): string {
  const percent = (judged: readonly Judged[]) => `${Math.round(accuracy(judged) * 100)} % of ${judged.length}`
  const sure = (judged: readonly Judged[]) => judged.filter(entry => entry.confidence >= 0.6)
  return `# How well kinds are recognised by ear

Written by \`npm run train\`, from recordings that the judging networks had not heard. The names of files play no part.

The networks (\`core/audio/kinds/\`) learn from ${made.toLocaleString('en')} sounds of our own synthesis (\`train/synth/\`), made by chance, one
of four by makers of what packs hold less often, one of four by other means than the rest (resonators that are rung, banks of
squares, meshes, grains that collide, tones that bend each other, few bits), and altered as sounds are on their way into packs
(tuned, equalised, driven, put in a room, cut short, hissed over, at lower rates); and from ${recordings} labelled recordings of two open sets, altered likewise,
many after another of their class was laid over them: the percussion presets of the sound bank TimGM6mb (Debian
\`timgm6mb-soundfont\`, keys by the General MIDI percussion map) and the patches of Freepats (Debian \`freepats\`). Recordings
that presets share count once; of each class what was recorded counts as much as what was made. Four networks ship, which
learned from all of it, and what they say is averaged. They can't be judged by what they heard, so others that learned in the
same way are judged here, each by what it did not hear. Our own makers were widened after a look at how the vectors of both
sets lie beside those of our sounds, class by class; hats after a look at what those of the demo were taken for; and drums of
machines after a look at what another synthesis, written for the purpose, was taken for (kicks that boom on for seconds).

| judged | right | right where it is at least 60 % sure |
| --- | --- | --- |
| each recording, by one network that left it and a quarter of the others out | ${percent(heldOut)} | ${percent(sure(heldOut))} |
| Freepats, by networks that learned from nothing of it | ${percent(withoutPatches)} | ${percent(sure(withoutPatches))} |
| TimGM6mb, by networks that learned from nothing of it | ${percent(withoutBank)} | ${percent(sure(withoutBank))} |
| both, by networks that learned from our own sounds alone | ${percent(byMadeAlone)} | ${percent(sure(byMadeAlone))} |

In the first line a preset may have taught the network how another one, tuned otherwise, sounds; the second and third, each
by four networks, are what to expect of a pack of which nobody has heard anything; those that ship heard more. The last one
says how near our own sounds come to recorded ones. Both sets are small and old, and some of their recordings are hardly to be
told by ear (a pedal hat counts as a closed one; a timbale as a hand drum).

## How sure, and how often right

Of both sets, each by networks that learned from nothing of it; the one number by which all sureness is scaled was chosen on
them, though. Below 30 % no kind is given; below 60 % it is shown with a question mark.

${sureness([...withoutPatches, ...withoutBank])}

## Held out

${matrix(heldOut)}

## Freepats, unheard

${matrix(withoutPatches)}

## TimGM6mb, unheard

${matrix(withoutBank)}
`
}

/** What the networks say of their own sureness beside what came true of it. */
function sureness(judged: readonly Judged[]): string {
  const rows = [0, 30, 60, 80].map((from, i, all) => {
    const below = all[i + 1] ?? 101
    const among = judged.filter(entry => entry.confidence * 100 >= from && entry.confidence * 100 < below)
    const mean = among.reduce((sum, entry) => sum + entry.confidence, 0) / among.length
    const range = below > 100 ? `${from} % and above` : `${from} to ${below} %`
    return `| ${range} | ${among.length} | ${among.length === 0 ? '· | ·' : `${Math.round(mean * 100)} % | ${Math.round(accuracy(among) * 100)} %`} |`
  })
  return ['| they say | sounds | on average | right |', '| --- | ---: | ---: | ---: |', ...rows].join('\n')
}

/** Rows are what it is, columns what it was told to be. */
function matrix(judged: readonly Judged[]): string {
  const count = (label: string, told: string) => judged.filter(entry => entry.label === label && entry.told === told).length
  const labels = CLASSES.filter(name => judged.some(entry => entry.label === name))
  const rows = labels.map((label) => {
    const all = judged.filter(entry => entry.label === label)
    return `| ${label} | ${CLASSES.map(told => count(label, told) || '·').join(' | ')} | ${Math.round(accuracy(all) * 100)} % |`
  })
  return [`| is \\ told | ${CLASSES.join(' | ')} | right |`, `| --- |${' ---: |'.repeat(CLASSES.length + 1)}`, ...rows].join('\n')
}
