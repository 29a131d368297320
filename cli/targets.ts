import { join, resolve } from 'node:path'
import { parseArgs } from 'node:util'
import { METERS, roomOf } from '../core/fit/usage'
import { meterWords, METER_NAMES } from '../core/fit/words'
import { listTargets } from '../server/fit/targets'

const { values } = parseArgs({ options: { data: { type: 'string' }, json: { type: 'boolean', default: false } } })
const { targets, problems } = await listTargets(resolve(values.data ?? join(process.env.EMPORION_ROOT ?? '.', '.data', 'own')))
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
process.exitCode = problems.length > 0 ? 1 : 0
