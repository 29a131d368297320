// makes a kit with kinds from the library through the API
const base = 'http://127.0.0.1:4399'
const get = async (p) => (await fetch(base + p)).json()
for (let i = 0; i < 60; i++) { const s = await get('/api/sounds?limit=1'); if (s.total >= 400) break; await new Promise(r => setTimeout(r, 1000)) }
const kinds = ['kick','kick','snare','snare','rim','clap','hat.closed','hat.open','hat.pedal','tom.low','tom.mid','tom.high','cymbal.ride','cymbal.crash','shaker','metal']
const notes = [36,35,38,40,37,39,42,46,44,41,47,50,51,49,70,56]
const kit = (await (await fetch(base + '/api/kits', { method: 'POST', headers: { 'content-type': 'application/json', origin: base }, body: '{}' })).json())
const pads = []
for (const [i, kind] of kinds.entries()) {
  const page = await get(`/api/sounds?limit=3&q=${encodeURIComponent('kind=' + kind + ' sounds<3')}`)
  const row = page.rows[i % 3] ?? page.rows[0]
  const pad = { ...kit.kit.pads[i], note: notes[i], role: kind }
  if (row) { pad.name = row.name; pad.layers = [{ sound: { id: row.hash, name: row.name, frames: row.frames, sampleRate: row.sampleRate, channels: row.channels }, lowVelocity: 1, highVelocity: 127, fadeInVelocities: 0, fadeOutVelocities: 0, turn: null, gainDb: -6, tuneCents: 0, reverse: false, startFrame: 0, endFrame: row.frames, fadeInFrames: 0, fadeOutFrames: 0 }] }
  if (kind.startsWith('hat')) pad.chokeGroup = 1
  pads.push(pad)
}
const made = await (await fetch(base + '/api/kits', { method: 'POST', headers: { 'content-type': 'application/json', origin: base }, body: JSON.stringify({ kit: { ...kit.kit, name: 'Night ferry', pads } }) })).json()
console.log(made.id ?? made)
await fetch(base + '/api/kits/' + kit.id, { method: 'DELETE', headers: { origin: base } })
