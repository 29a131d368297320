import type { FoundRow } from '../../contract/library'

/** A row of the list for tests of the page's stores; only what they look at is of any meaning. */
export function madeRow(id: number, changes: Partial<FoundRow> = {}): FoundRow {
  return {
    id, hash: id.toString(16).padStart(64, '0'), name: `Sound ${id}`, folder: 'Deck/Bow', folders: ['1/Deck/Bow'], kind: 'kick', kindConfidence: 0.9, favourite: false, setAside: false, tags: [],
    container: 'WAVE', sampleRate: 44_100, bitDepth: 16, channels: 1, frames: 44_100, lengthSeconds: 1, peak: 0.5, effectiveSeconds: 0.4, hitLufs: -18, truePeakDb: -6, brightness: 30, pitchNote: null, tempo: null, statedNote: null,
    flags: [], hits: [], fileCount: 1, warnings: 0, addedAt: '2026-11-01T10:00:00.000Z', overview: '', foundBy: 'words', nearness: null, ...changes,
  }
}
