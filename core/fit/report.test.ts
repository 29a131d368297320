import { describe, expect, it } from 'vitest'
import { fit, kitOf, layerOf, Sounds, target } from '../../tests/helpers/fit'
import type { Kit } from '../kit/document'
import { reportHtml, reportText, type ReportFacts } from './report'
import type { Target } from './target'

const sounds = new Sounds()
const lembos = target('lembos')

function factsOf(kit: Kit, wanted: Target, remarks: readonly string[] = []): ReportFacts {
  const { plan, arranged } = fit(kit, sounds, wanted)
  return { kit, target: wanted, plan, arranged, loweredDb: plan.loweredDb, nameOf: (padIndex, at) => `${padIndex}-${at}.wav`, remarks }
}

/** The words of a page, without its marks. */
const wordsOf = (html: string) => html.replace(/<style>.*?<\/style>/s, '').replaceAll(/<[^>]+>/g, '\n').replaceAll('&lt;', '<').replaceAll('&gt;', '>').replaceAll('&quot;', '"').replaceAll('&amp;', '&')

describe('the report of a kit that was fitted', () => {
  const nasty = 'Bell & "buoy" <script>alert(1)</script>'
  const kit = {
    ...kitOf([
      { name: 'Kick', role: 'kick', layers: [layerOf(sounds.hit('Kick', 1, { seconds: 30 }))] },
      { name: nasty, role: 'metal.bell', chokeGroup: 3, layers: [layerOf(sounds.hit('Bell', 2, { seconds: 25, stereo: true }))] },
    ]),
    name: 'Night & day',
  }
  const facts = factsOf(kit, lembos, ['A remark.'])
  const [text, html] = [reportText(facts), reportHtml(facts)]

  it('says what was written, used, changed and told, as text and as a page', () => {
    for (const words of [text, wordsOf(html)]) {
      expect(words).toContain('Night & day for Lembos')
      expect(words).toContain('2 samples written, 0 dropped, 0 left out with their pads.')
      expect(words).toContain('46 of 48 pads of Lembos stay empty: what is on them now is erased on sending.')
      expect(words).toContain('A1 Kick -> A1')
      expect(words).toContain(`A2 ${nasty}`)
      expect(words).toContain('A2 is in choke group 3, which Lembos does not know: it rings on.')
      expect(words).toMatch(/The last \d+\.\d\d s of (30|25)\.00 s go/)
      expect(words).toContain('A remark.')
      // 55 s were needed as it is, 45 s are there.
      expect(words).toContain('55.00 s')
      expect(words).toContain('45.00 s')
    }
  })

  it('lets nothing of a name become part of the page', () => {
    expect(html).not.toContain('<script')
    expect(html).toContain('Bell &amp; &quot;buoy&quot; &lt;script&gt;')
  })

  it('of a kit that cannot fit says which limit, by how much, and what would be enough', () => {
    const tiny: Target = { ...lembos, limits: { ...lembos.limits, seconds: 0.02 } }
    const three = kitOf([1, 2, 3].map(i => ({ layers: [layerOf(sounds.hit(`Hit ${i}`, 10 + i))] })))
    // No sample is cut shorter than 30 ms, and no kit is left without any.
    expect(reportText(factsOf(three, tiny))).toMatch(/Audio: at least 0\.0[34] s needed, Lembos has 0\.02 s \(0\.0[12] s too much\)\. Needed by A\d \(0\.0[34] s\)\. To make it fit, use a target with 0\.0[34] s\./)
  })
})
