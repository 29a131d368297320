import { z } from 'zod'
import { AREAS } from './index'
import type { Endpoint } from './endpoint'

/** A JSON Schema, as far as it is printed. */
interface Shape {
  readonly type?: string | readonly string[]
  readonly anyOf?: readonly Shape[]
  readonly oneOf?: readonly Shape[]
  readonly const?: unknown
  readonly enum?: readonly unknown[]
  readonly items?: Shape
  readonly prefixItems?: readonly Shape[]
  readonly properties?: Readonly<Record<string, Shape>>
  readonly required?: readonly string[]
  readonly additionalProperties?: Shape | boolean
}

/** Longer ones are written out in the contract alone. */
const LONGEST = 300

function textOf(shape: Shape): string {
  const choices = shape.anyOf ?? shape.oneOf
  if (choices) return [...new Set(choices.map(textOf))].join(' or ')
  if (shape.enum) return shape.enum.map(value => JSON.stringify(value)).join(' or ')
  if ('const' in shape) return JSON.stringify(shape.const)
  if (shape.prefixItems) return `[${shape.prefixItems.map(textOf).join(', ')}]`
  if (shape.type === 'array') return `list of ${textOf(shape.items ?? {})}`
  if (shape.properties) return `{ ${Object.entries(shape.properties).map(([key, inner]) => `${key}${shape.required?.includes(key) ? '' : '?'}: ${textOf(inner)}`).join(', ')} }`
  if (shape.type === 'object') return `{ [key]: ${typeof shape.additionalProperties === 'object' ? textOf(shape.additionalProperties) : 'anything'} }`
  return [shape.type ?? 'anything'].flat().join(' or ')
}

function readText(schema: z.ZodType): string {
  const text = textOf(z.toJSONSchema(schema, { io: 'input', unrepresentable: 'any', reused: 'inline' }) as Shape)
  return text.length > LONGEST ? 'see the contract' : text
}

/** What the source says of an answer: its type is known to the compiler alone. */
function answerText({ does }: Endpoint, source: string): string {
  const line = source.split('\n').find(one => one.includes(`'${does}'`)) ?? ''
  return /\.(?:answers|streams)<(.*)>\(\)/.exec(line)?.[1]?.replaceAll('readonly ', '') ?? 'a file'
}

const cell = (text: string) => `\`${text.replaceAll('|', '\\|')}\``

function lineOf(endpoint: Endpoint, source: string): string {
  const { method, path, does, reads: { query, body } } = endpoint
  const reads = [query ? `query ${cell(readText(query))}` : '', body === 'bytes' ? 'a file' : body ? `body ${cell(readText(body))}` : ''].filter(Boolean)
  return `| ${cell(`${method} ${path}`)} | ${does} | ${reads.join('; ') || '-'} | ${cell(answerText(endpoint, source))} |`
}

/** The page of the docs on what the server is asked. @param source all files of the contract, one after the other */
export function apiPage(source: string): string {
  const areas = Object.entries(AREAS).map(([title, area]) => `## ${title}\n\n| request | what it does | reads | answers |\n| --- | --- | --- | --- |\n${Object.values(area).map(endpoint => lineOf(endpoint, source)).join('\n')}`)
  return `# What the server is asked

Made from \`contract/\` by \`node scripts/pages.mjs\`. The server is for the page alone: it listens on 127.0.0.1 and refuses other origins. Requests
and answers are JSON. What goes wrong is answered with \`{ message, data: { code } }\`: 400 not understood, 403 not allowed, 404 not there, 409
changed elsewhere or taken, 413 too much, 422 not readable, 503 the database is away, 507 the disk is full.

${areas.join('\n\n')}
`
}
