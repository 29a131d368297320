import { analyseFile, type Analysis } from '../library/analyse'

/** Task of the analysis pool: one batch of files, so that messages stay few. */
export default async function analyseBatch(paths: readonly string[]): Promise<Analysis[]> {
  const found: Analysis[] = []
  for (const path of paths) found.push(await analyseFile(path))
  return found
}
