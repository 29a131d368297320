import { readFile } from 'node:fs/promises'
import { join } from 'node:path'
import { z } from 'zod'
import type { StudioConfig } from '../base/config'
import { writeAtomically } from '../base/disk'

const idsSchema = z.array(z.string())

const fileOf = ({ dataDir }: StudioConfig) => join(dataDir, 'demo-presets.json')

/** The presets that the demo has stored, by their ids; what cannot be read counts as none. */
export async function demoPresetIds(config: StudioConfig): Promise<Set<string>> {
  try {
    return new Set(idsSchema.parse(JSON.parse(await readFile(fileOf(config), 'utf8'))))
  }
  catch {
    return new Set()
  }
}

export function writeDemoPresetIds(config: StudioConfig, ids: ReadonlySet<string>): Promise<void> {
  return writeAtomically(fileOf(config), JSON.stringify([...ids]))
}
