import { z } from 'zod'

/** A small generator, so that what showed something can be had again (Park and Miller 1988). */
export function seeded(seed: number): () => number {
  let state = seed % 2_147_483_646 + 1
  return () => (state = state * 48_271 % 2_147_483_647) / 2_147_483_647
}

export type Random = () => number
export const pick = <T>(random: Random, of: readonly T[]): T => of[Math.floor(random() * of.length)]!

/** A JSON Schema, as far as it is looked at. */
interface Shape {
  readonly type?: string
  readonly anyOf?: readonly Shape[]
  readonly oneOf?: readonly Shape[]
  readonly allOf?: readonly Shape[]
  readonly const?: unknown
  readonly enum?: readonly unknown[]
  readonly format?: string
  readonly pattern?: string
  readonly minimum?: number
  readonly maximum?: number
  readonly minLength?: number
  readonly items?: Shape
  readonly prefixItems?: readonly Shape[]
  readonly minItems?: number
  readonly properties?: Readonly<Record<string, Shape>>
  readonly required?: readonly string[]
  readonly additionalProperties?: Shape | boolean
  readonly default?: unknown
}

/** What goes into a schema, as JSON Schema says it. */
export function shapeOf(schema: z.ZodType): Shape {
  return z.toJSONSchema(schema, { io: 'input', unrepresentable: 'any', reused: 'inline' }) as Shape
}

/** A value that a schema may take: most are right, and some are right but for a condition that JSON Schema can't say. */
export function valueOf(shape: Shape, random: Random, anything: () => unknown, texts: readonly string[], depth = 0): unknown {
  const inner = (of: Shape) => valueOf(of, random, anything, texts, depth + 1)
  if ('const' in shape) return shape.const
  if (shape.enum) return pick(random, shape.enum)
  const choices = shape.anyOf ?? shape.oneOf
  if (choices) return inner(pick(random, choices))
  if (shape.allOf) return inner(shape.allOf[0]!)
  if (depth > 12) return null
  switch (shape.type) {
    case 'string': return textOf(shape, random, texts)
    case 'integer': return Math.floor(numberOf(shape, random))
    case 'number': return numberOf(shape, random)
    case 'boolean': return random() < 0.5
    case 'null': return null
    case 'array': {
      const fixed = shape.prefixItems?.map(inner) ?? []
      const count = fixed.length > 0 ? 0 : (shape.minItems ?? 0) + Math.floor(random() * 3)
      return [...fixed, ...Array.from({ length: count }, () => inner(shape.items ?? {}))]
    }
    case 'object': {
      const listed = Object.entries(shape.properties ?? {}).filter(([key]) => shape.required?.includes(key) || random() < 0.6)
      const extra = typeof shape.additionalProperties === 'object' ? [[pick(random, texts), shape.additionalProperties] as const] : []
      return Object.fromEntries([...listed, ...extra].map(([key, of]) => [key, inner(of)]))
    }
    default: return anything()
  }
}

function numberOf({ minimum = 0, maximum = 200 }: Shape, random: Random): number {
  return minimum + random() * Math.min(1000, maximum - minimum)
}

const HEX = '0123456789abcdef'

function textOf({ format, pattern, minLength = 0 }: Shape, random: Random, texts: readonly string[]): string {
  const hex = (count: number) => Array.from({ length: count }, () => pick(random, [...HEX])).join('')
  if (format === 'uuid') return random() < 0.7 ? pick(random, texts.filter(text => /^[0-9a-f-]{36}$/.test(text)).concat(crypto.randomUUID())) : `${hex(8)}-${hex(4)}-4${hex(3)}-8${hex(3)}-${hex(12)}`
  if (pattern?.includes('{64}')) return random() < 0.5 ? pick(random, texts.filter(text => text.length === 64).concat(hex(64))) : hex(64)
  return pick(random, texts).padEnd(minLength, 'x')
}

/** What hardly anybody sends. */
export const ODD: readonly unknown[] = [
  null, true, -1, 0, 0.5, 2 ** 31, 2 ** 53, -(2 ** 63), 1e308, '', ' ', 'x'.repeat(300), 'x'.repeat(5000), '\0', '\uD800', '../../etc/passwd', '/etc/passwd', '/proc/self/environ', 'NaN', 'DROP TABLE sounds; --', '%00', '🥁'.repeat(90),
  [], {}, [[]], { __proto__: 1 }, { constructor: { prototype: 1 } }, Array.from({ length: 1000 }, () => 1), '2147483648', '99999999999999999999',
]

/** The value with some of it changed: replaced, left out, added to. */
export function mutated(value: unknown, random: Random): unknown {
  if (random() < 0.15) return pick(random, ODD)
  if (Array.isArray(value)) {
    if (value.length === 0 || random() < 0.2) return [...value as unknown[], pick(random, ODD)]
    const at = Math.floor(random() * value.length)
    return value.map((one: unknown, i) => i === at ? mutated(one, random) : one)
  }
  if (typeof value === 'object' && value !== null) {
    const entries = Object.entries(value)
    if (entries.length === 0 || random() < 0.1) return { ...value, [pick(random, ['extra', '', 'x'.repeat(200), '\0'])]: pick(random, ODD) }
    const at = Math.floor(random() * entries.length)
    if (random() < 0.15) return Object.fromEntries(entries.filter((_, i) => i !== at))
    return Object.fromEntries(entries.map(([key, one], i) => [key, i === at ? mutated(one, random) : one]))
  }
  return pick(random, ODD)
}
