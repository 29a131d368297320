import { benchAudition } from './audition'
import { benchBanks } from './banks'
import { benchFit } from './fit'
import { benchGroove } from './groove'
import { benchIntake } from './intake'
import { benchKit } from './kit'
import { print, type Figure } from './measure'
import { benchSearch } from './search'
import { benchViews } from './views'
import scratch from '../tests/helpers/scratch'

const BENCHES: Readonly<Record<string, () => Promise<Figure[]> | AsyncGenerator<Figure>>> = { intake: benchIntake, search: benchSearch, audition: benchAudition, kit: benchKit, groove: benchGroove, fit: benchFit, banks: benchBanks, views: benchViews }

const json = process.argv.includes('--json')
const asked = process.argv.slice(2).filter(word => word !== '--json')
const unknown = asked.find(name => !BENCHES[name])
if (unknown) {
  console.error(`There is no bench named "${unknown}": ${Object.keys(BENCHES).join(', ')}.`)
  process.exit(2)
}
// A bench leaves gigabytes: they go with it.
process.on('exit', scratch())
for (const name of asked.length > 0 ? asked : Object.keys(BENCHES)) {
  for await (const figure of await BENCHES[name]!()) print(figure, json)
}
process.exit(0)
