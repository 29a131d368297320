// Writes the pages of the docs that are made from the code: keys from the commands, requests from the contract, the command line from its parsers. Run after a build.
import { execFileSync } from 'node:child_process'
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { pathToFileURL } from 'node:url'
import { build } from 'esbuild'

const folder = mkdtempSync(join(tmpdir(), 'emporion-pages-'))
process.on('exit', () => rmSync(folder, { recursive: true }))

/** What a module of ours gives. */
async function load(entry) {
  const outfile = join(folder, `${entry.replaceAll('/', '-')}.mjs`)
  await build({ entryPoints: [entry], outfile, bundle: true, format: 'esm', logLevel: 'warning' })
  return import(pathToFileURL(outfile).href)
}

const { keysPage } = await load('app/parts/keys/page.ts')
writeFileSync('docs/keys.md', keysPage())

const { apiPage } = await load('contract/page.ts')
writeFileSync('docs/api.md', apiPage(readdirSync('contract').filter(name => !name.endsWith('.test.ts')).sort().map(name => readFileSync(`contract/${name}`, 'utf8')).join('\n')))

const help = name => execFileSync('node', [`dist/${name}.mjs`, '--help'], { encoding: 'utf8' }).trimEnd()
const script = execFileSync('./emporion', ['help'], { encoding: 'utf8' }).trimEnd()
const block = text => `\`\`\`\n${text}\n\`\`\``
writeFileSync('docs/commands.md', `# The command line

Made from what each command says of itself by \`node scripts/pages.mjs\`.

## ./emporion

${block(script)}

${['analyse', 'convert', 'targets', 'verify'].map(name => `## ./emporion ${name}\n\n${block(help(name))}`).join('\n\n')}
`)
