import { createHash } from 'node:crypto'
import { readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs'
import { join, relative } from 'node:path'
import { emptyKit } from '../../core/kit/document'
import { placeSounds } from '../../core/kit/edits'
import { decodeAudio } from '../../core/audio/decode'
import { identityOf } from '../../server/library/analyse'
import { realDisk } from '../../server/base/disk'
import { storePreset } from '../../server/vault/store'
import { freshFolder, put, waveOf } from './folder'

/** A preset of three sounds in a vault of its own. Gives the folder of its bag. */
export async function storedBag(name = 'Night deck'): Promise<string> {
  const folder = freshFolder()
  const places = new Map<string, string>()
  const sounds = []
  for (const hz of [200, 300, 400]) {
    const bytes = waveOf(hz)
    const audio = await decodeAudio(bytes)
    const id = identityOf(audio)
    places.set(id, put(folder, `${hz}.wav`, bytes))
    sounds.push({ sound: { id, name: `Tone ${hz}`, frames: audio.frames, sampleRate: audio.sampleRate, channels: audio.channels.length }, kind: null })
  }
  const { kit } = placeSounds(emptyKit(name), 0, sounds)
  const stored = await storePreset({ kit, name, presetId: null, type: 'kit' }, {
    vaultDir: join(folder, 'vault'), disk: realDisk, signal: new AbortController().signal, locate: id => Promise.resolve(places.get(id)), onSample: () => undefined, now: new Date('2026-03-01T12:00:00Z'),
  })
  return stored.path
}

const sha256 = (path: string) => createHash('sha256').update(readFileSync(path)).digest('hex')

/** Writes the manifests and the Payload-Oxum of a bag anew, so that they agree with whatever lies in it (RFC 8493, from memory). */
export function sealBag(bag: string): void {
  const payload = readdirSync(join(bag, 'data'), { recursive: true, withFileTypes: true }).filter(entry => entry.isFile()).map(entry => join(entry.parentPath, entry.name))
  const line = (path: string) => `${sha256(path)}  ${relative(bag, path)}\n`
  writeFileSync(join(bag, 'manifest-sha256.txt'), payload.map(line).join(''))
  const oxum = `Payload-Oxum: ${payload.reduce((sum, path) => sum + statSync(path).size, 0)}.${payload.length}\n`
  writeFileSync(join(bag, 'bag-info.txt'), readFileSync(join(bag, 'bag-info.txt'), 'utf8').replace(/^Payload-Oxum:.*\n/m, oxum))
  writeFileSync(join(bag, 'tagmanifest-sha256.txt'), ['bagit.txt', 'bag-info.txt', 'manifest-sha256.txt'].map(name => line(join(bag, name))).join(''))
}

/** Changes the `kit.json` of a bag. */
export function editKitFile(bag: string, edit: (file: { kit: Record<string, unknown> & { pads: { layers: { sound: Record<string, unknown> }[] }[] }, samples: Record<string, { path: string, bytes: number }> }) => void): void {
  const path = join(bag, 'data', 'kit.json')
  const file = JSON.parse(readFileSync(path, 'utf8')) as Parameters<typeof edit>[0]
  edit(file)
  writeFileSync(path, JSON.stringify(file))
}
