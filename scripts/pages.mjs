// Writes the pages of the docs that are made from the code: keys from the commands, the command line from its parsers. Run after a build.
import { execFileSync } from 'node:child_process'
import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { pathToFileURL } from 'node:url'
import { build } from 'esbuild'

const outfile = join(mkdtempSync(join(tmpdir(), 'emporion-pages-')), 'page.mjs')
await build({ entryPoints: ['app/keys/page.ts'], outfile, bundle: true, format: 'esm', logLevel: 'warning' })
const { keysPage } = await import(pathToFileURL(outfile).href)
writeFileSync('docs/keys.md', keysPage())

const help = name => execFileSync('node', [`dist/${name}.mjs`, '--help'], { encoding: 'utf8' }).trimEnd()
const script = execFileSync('./emporion', ['help'], { encoding: 'utf8' }).trimEnd()
const block = text => `\`\`\`\n${text}\n\`\`\``
writeFileSync('docs/commands.md', `# The command line

Made from what each command says of itself by \`node scripts/pages.mjs\`.

## ./emporion

${block(script)}

${['analyse', 'convert', 'targets', 'verify'].map(name => `## ./emporion ${name}\n\n${block(help(name))}`).join('\n\n')}
`)
