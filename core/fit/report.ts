import { noteLabel } from '../audio/notes'
import type { Kit } from '../kit/document'
import { padLabel } from '../kit/padLabel'
import type { Arranged } from './arrange'
import type { FitPlan, PlanRow } from './plan'
import { slotLabel, type Target } from './target'
import { METERS, roomOf } from './usage'
import { changesOf, emptyWords, loweredWords, meterWords, METER_NAMES, rateWords, shortfallWords } from './words'

/** What there is to tell of a kit that was written for a target. */
export interface ReportFacts {
  readonly kit: Kit
  readonly target: Target
  readonly plan: FitPlan
  readonly arranged: readonly Arranged[]
  readonly loweredDb: number
  /** The name of each written sample, by pad and place. */
  readonly nameOf: (padIndex: number, at: number) => string | undefined
  /** What was lost already when the kit was read, and other remarks. */
  readonly remarks: readonly string[]
}

interface Section {
  readonly title: string
  readonly lines: readonly string[]
}

interface Report {
  readonly title: string
  readonly summary: readonly string[]
  readonly meters: readonly (readonly [name: string, before: string, after: string, room: string])[]
  readonly pads: readonly Section[]
  readonly remarks: readonly string[]
}

/** The report as plain text. */
export function reportText(facts: ReportFacts): string {
  const report = reportOf(facts)
  const out = [report.title, '='.repeat(report.title.length), '', ...report.summary, '']
  for (const [name, before, after, room] of report.meters) out.push(`${name.padEnd(14)} ${before.padStart(12)} -> ${after.padStart(12)}   of ${room}`)
  for (const { title, lines } of report.pads) out.push('', title, ...lines.map(line => `  ${line}`))
  if (report.remarks.length > 0) out.push('', 'Beside that', ...report.remarks.map(line => `  ${line}`))
  return `${out.join('\n')}\n`
}

/** The report as one HTML page that needs nothing else. */
export function reportHtml(facts: ReportFacts): string {
  const report = reportOf(facts)
  const list = (lines: readonly string[]) => `<ul>${lines.map(line => `<li>${escaped(line)}</li>`).join('')}</ul>`
  return `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><title>${escaped(report.title)}</title>
<style>body{font:14px/1.5 system-ui,sans-serif;max-width:60rem;margin:2rem auto;padding:0 1rem;color:#1E2A33;background:#FFFDF7}h1{font-size:1.4rem}h2{font-size:1rem;margin:1.2rem 0 0;border-top:1px solid #DDD4C2;padding-top:.6rem}table{border-collapse:collapse}td,th{text-align:right;padding:.15rem .8rem;border-bottom:1px solid #DDD4C2;font-variant-numeric:tabular-nums}th:first-child,td:first-child{text-align:left}ul{margin:.2rem 0 0;padding-left:1.2rem}</style></head>
<body><h1>${escaped(report.title)}</h1>
${report.summary.map(line => `<p>${escaped(line)}</p>`).join('\n')}
<table><thead><tr><th>What</th><th>Needed as it is</th><th>Used</th><th>There is</th></tr></thead><tbody>
${report.meters.map(row => `<tr>${row.map(cell => `<td>${escaped(cell)}</td>`).join('')}</tr>`).join('\n')}
</tbody></table>
${report.pads.map(({ title, lines }) => `<h2>${escaped(title)}</h2>${list(lines)}`).join('\n')}
${report.remarks.length > 0 ? `<h2>Beside that</h2>${list(report.remarks)}` : ''}
</body></html>
`
}

function reportOf({ kit, target, plan, arranged, loweredDb, nameOf, remarks }: ReportFacts): Report {
  const places = new Map(arranged.map(place => [place.padIndex, place]))
  const room = roomOf(target)
  const count = (state: PlanRow['state']) => plan.rows.filter(row => row.state === state).length
  const byPad = plan.pads.map(({ padIndex, warnings }) => {
    const pad = kit.pads[padIndex]!
    const place = places.get(padIndex)
    const note = place && place.toNote !== place.fromNote ? `${noteLabel(place.fromNote, target.middleC)} to ${noteLabel(place.toNote, target.middleC)}` : noteLabel(pad.note, target.middleC)
    const rows = plan.rows.filter(row => row.padIndex === padIndex)
    const named = `${padLabel(padIndex)} ${pad.name}`.trim()
    return {
      title: place ? `${named} -> ${slotLabel(target, place.slot)}, ${note}` : `${named}: left out`,
      lines: [...rows.flatMap(row => linesOf(kit, row, nameOf(padIndex, row.at))), ...warnings.map(({ what }) => what)],
    }
  })
  return {
    title: `${kit.name} for ${target.name}`,
    summary: [
      `${count('kept')} ${count('kept') === 1 ? 'sample' : 'samples'} written, ${count('dropped')} dropped, ${count('left out')} left out with their pads.`,
      emptyWords(target, plan.after),
      ...loweredDb < -0.005 ? [loweredWords(loweredDb)] : [],
      ...plan.shortfalls.map(shortfall => shortfallWords(shortfall, target)),
    ],
    meters: METERS.map(meter => [METER_NAMES[meter], meterWords(meter, plan.before[meter], target), meterWords(meter, plan.after[meter], target), room[meter] === null ? 'no limit' : meterWords(meter, room[meter], target)]),
    pads: byPad,
    remarks: [...plan.warnings.filter(({ padIndex }) => padIndex === null).map(({ what }) => what), ...remarks],
  }
}

function linesOf(kit: Kit, row: PlanRow, name: string | undefined): string[] {
  const pad = kit.pads[row.padIndex]!
  const sound = pad.layers[row.unit.layers[0]!]!.sound.name
  const shape = row.variant ? `: ${rateWords(row.variant.sampleRate)} kHz, ${row.variant.depth === 'float' ? 'float' : `${row.variant.depth} bit`}, ${row.variant.channels === 1 ? 'mono' : 'stereo'}, ${row.variant.seconds.toFixed(2)} s` : ''
  return [`${sound}${name !== undefined && name !== sound ? ` as ${name}` : ''}${shape}`, ...changesOf(kit, row).map(change => change.words)]
}

function escaped(text: string): string {
  return text.replace(/[&<>"]/g, sign => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[sign]!)
}
