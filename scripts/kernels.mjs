// Writes the WebAssembly of core/search/catalogue/distances.wat into a module beside it.
import { readFileSync, writeFileSync } from 'node:fs'
import wabt from 'wabt'

const SOURCE = 'core/search/catalogue/distances.wat'

const { parseWat } = await wabt()
const { buffer } = parseWat(SOURCE, readFileSync(SOURCE, 'utf8'), { simd: true }).toBinary({})
writeFileSync('core/search/catalogue/distancesKernel.ts', `/** WebAssembly of \`distances.wat\` in base64. Made by \`npm run kernels\`. */
export const DISTANCES_KERNEL = '${Buffer.from(buffer).toString('base64')}'
`)
