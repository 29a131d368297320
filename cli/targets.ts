import { METERS, roomOf } from '../core/fit/usage'
import { meterWords, METER_NAMES } from '../core/fit/words'
import { listTargets } from '../server/fit/targets'
import { command, dataDirOf } from './command'

const USAGE = `usage: ./emporion targets [--data DIR] [--json]

Lists the formats and devices that kits can be fitted to, with their limits; those in DIR/targets as well.
Ends with 0, or 1 where a target of your own can't be read.`

await command(USAGE, { data: { type: 'string' }, json: { type: 'boolean', default: false } },
  ({ positionals }) => positionals.length > 0 ? `targets takes no names, and got "${positionals[0]}".` : undefined,
  async ({ values }) => {
    const { targets, problems } = await listTargets(dataDirOf(values.data))
    for (const problem of problems) console.error(problem)
    for (const { target, isOwn } of targets) {
      if (values.json) {
        console.log(JSON.stringify({ ...target, isOwn }))
        continue
      }
      const room = roomOf(target)
      const limits = METERS.flatMap(meter => room[meter] === null ? [] : [`${METER_NAMES[meter].toLowerCase()} ${meterWords(meter, room[meter], target)}`])
      console.log(`${target.id.padEnd(18)} ${target.name}${isOwn ? ' (your own)' : ''}: ${target.about}\n${' '.repeat(19)}${limits.join(', ')}`)
    }
    return problems.length > 0 ? 1 : 0
  })
