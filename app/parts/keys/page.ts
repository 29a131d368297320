import { VIEWS } from '../../views'
import { capitalised } from '../../../core/wording'
import { PAD_LETTERS } from './padLetters'
import { chordLabel, commandsOf, PLACES } from './commands'

/** The page of keys for the docs, as they are until somebody chooses others. */
export function keysPage(): string {
  const sections = PLACES.map(({ place, title }) => `## ${title}\n\n| key | what it does |\n| --- | --- |\n${commandsOf(place).map(({ keys, does }) => `| ${keys.map(key => `\`${chordLabel(key)}\``).join(', ')} | ${capitalised(does)} |`).join('\n')}`)
  return `# Keys

Made from the commands by \`node scripts/pages.mjs\`. Each key can be changed under **?**, but for arrows and the like, which all lists have.
On the Bench and in Grooves ${PAD_LETTERS.slice(0, 8).join(' ')} and ${PAD_LETTERS.slice(8).join(' ')} play the pads of the current bank, with Shift at velocity 127.
**1** to **${VIEWS.length}** go to the views.

${sections.join('\n\n')}
`
}
