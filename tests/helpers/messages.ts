import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { parse, type SFCDescriptor } from '@vue/compiler-sfc'
import { NodeTypes, type TemplateChildNode } from '@vue/compiler-core'
import ts from 'typescript'
import { capitalised, counted, listed, signed, whole } from '../../core/wording'

/** What people read, as it stands in one place of the code, rendered for a number of things. */
export interface Rendered {
  readonly place: string
  readonly text: string
  /** Whole sentences: the message of an error, or what is shown in passing. */
  readonly sentence: boolean
}

/** As long as a name may be in practice, with what names have in them. */
export const LONG_NAME = 'Third engine room gong, struck twice & left to ring – far (wet) é_24bit 07'

/** Letters that a person would read: at least two words. */
const PROSE = /[A-Za-z]{2,}[^A-Za-z]* [^A-Za-z]*[A-Za-z]{2,}/
const COUNT_NAMES = /(?:length|size|count|total|left|missing|found|changed|added)$/i
/** Constants: limits, none of which is one. */
const LIMIT_NAMES = /^(?:\w+\.)*[A-Z][A-Z_\d]+$/
const LIMIT = 128
/** More branches than these are not followed: the first ways of each are. */
const MOST_WAYS = 24

export function filesOfWords(folders: readonly string[]): string[] {
  return folders.flatMap(folder => readdirSync(folder, { withFileTypes: true, recursive: true })
    .filter(entry => entry.isFile() && /\.(ts|vue)$/.test(entry.name) && !/\.test\.ts$/.test(entry.name))
    .map(entry => join(entry.parentPath, entry.name)))
}

/** Every message of a file, each way that its branches allow, for `count` things with long names. */
export function messagesOf(path: string, count: number): Rendered[] {
  const code = readFileSync(path, 'utf8')
  if (!path.endsWith('.vue')) return messagesOfScript(path, code, count)
  const { descriptor } = parse(code)
  const script = descriptor.scriptSetup ?? descriptor.script
  return [...script ? messagesOfScript(path, script.content, count, script.loc.start.line - 1) : [], ...messagesOfTemplate(path, descriptor, count)]
}

function messagesOfScript(path: string, code: string, count: number, above = 0): Rendered[] {
  const file = ts.createSourceFile(path, code, ts.ScriptTarget.Latest, true, ts.ScriptKind.TS)
  const found: Rendered[] = []
  const add = (node: ts.Node, sentence: boolean): void => {
    const place = `${path}:${file.getLineAndCharacterOfPosition(node.getStart()).line + 1 + above}`
    for (const text of waysOf(node, count)) if (PROSE.test(text)) found.push({ place, text, sentence })
  }
  const visit = (node: ts.Node, inside: boolean): void => {
    const isSentence = sentencesOf(node)
    for (const sentence of isSentence) if (isReached(sentence, count)) add(sentence, true)
    const isTagged = ts.isTaggedTemplateExpression(node)
    if (!inside && !isTagged && (ts.isTemplateExpression(node) || ts.isStringLiteral(node) && isShown(node)) && isReached(node, count)) add(node, false)
    if (!isTagged) ts.forEachChild(node, child => visit(child, inside || ts.isTemplateExpression(node) || isSentence.some(one => one === child)))
  }
  visit(file, false)
  return found
}

/** The arguments of a call that are sentences: of an error, and of what is shown in passing. */
function sentencesOf(node: ts.Node): readonly ts.Node[] {
  if (ts.isCallExpression(node) && node.expression.getText() === 'say') return node.arguments.slice(0, 1)
  if (!ts.isNewExpression(node) || node.expression.getText() !== 'EmporionError') return []
  const parts = node.arguments?.[1]
  if (!parts) return []
  if (!ts.isObjectLiteralExpression(parts)) return [parts]
  return parts.properties.flatMap(part => ts.isPropertyAssignment(part) ? [part.initializer] : [])
}

/** Whether a constant is read by people: what a property of such a name holds. */
function isShown(node: ts.StringLiteral): boolean {
  return ts.isPropertyAssignment(node.parent) && /^(?:what|title|message|label|tip|placeholder|next|kept|help|about)$/.test(node.parent.name.getText())
}

function messagesOfTemplate(path: string, descriptor: SFCDescriptor, count: number): Rendered[] {
  const found: Rendered[] = []
  const expression = (code: string): readonly string[] => waysOf(expressionOf(code), count)
  const add = (line: number, ways: readonly string[]): void => {
    for (const way of ways) {
      const text = way.replace(/\s+/g, ' ').trim()
      if (PROSE.test(text)) found.push({ place: `${path}:${line}`, text, sentence: false })
    }
  }
  const visit = (node: TemplateChildNode): void => {
    if (node.type !== NodeTypes.ELEMENT) return
    const condition = node.props.find(prop => prop.type === NodeTypes.DIRECTIVE && prop.name === 'if')
    if (condition?.type === NodeTypes.DIRECTIVE && condition.exp && decided(expressionOf(condition.exp.loc.source), count) === false) return
    for (const prop of node.props) {
      if (prop.type === NodeTypes.ATTRIBUTE && /^(?:title|aria-label|placeholder|label|alt|content)$/.test(prop.name)) add(prop.loc.start.line, [prop.value?.content ?? ''])
      if (prop.type === NodeTypes.DIRECTIVE && prop.name === 'bind' && /^(?:title|aria-label|placeholder|label|alt|content)$/.test(prop.arg?.loc.source ?? '') && prop.exp) add(prop.loc.start.line, expression(prop.exp.loc.source))
    }
    let ways: readonly string[] = ['']
    for (const child of node.children) {
      if (child.type === NodeTypes.TEXT) ways = joined([ways, [child.content]])
      else if (child.type === NodeTypes.INTERPOLATION) ways = joined([ways, expression(child.content.loc.source)])
      else { add(node.loc.start.line, ways); ways = ['']; visit(child) }
    }
    add(node.loc.start.line, ways)
  }
  for (const child of descriptor.template?.ast?.children ?? []) visit(child)
  return found
}

function expressionOf(code: string): ts.Expression {
  const [statement] = ts.createSourceFile('in.ts', `(${code})`, ts.ScriptTarget.Latest, true).statements
  if (!statement || !ts.isExpressionStatement(statement)) throw new Error(`No expression: ${code}`)
  return statement.expression
}

function joined(parts: readonly (readonly string[])[]): string[] {
  return parts.reduce<string[]>((ways, part) => ways.flatMap(way => part.map(text => way + text)).slice(0, MOST_WAYS), [''])
}

/** The texts that an expression may give, with `count` in place of every number and a long name in place of every other. */
function waysOf(node: ts.Node, count: number): string[] {
  const ways = (one: ts.Node): string[] => waysOf(one, count)
  if (ts.isExpressionStatement(node) || ts.isParenthesizedExpression(node) || ts.isNonNullExpression(node) || ts.isAsExpression(node)) return ways(node.expression)
  if (ts.isStringLiteral(node) || ts.isNoSubstitutionTemplateLiteral(node)) return [node.text]
  if (ts.isNumericLiteral(node)) return [node.text]
  if (ts.isTemplateExpression(node)) return joined([[node.head.text], ...node.templateSpans.flatMap(span => [ways(span.expression), [span.literal.text]])])
  if (ts.isConditionalExpression(node)) {
    const holds = decided(node.condition, count)
    return [...holds !== false ? ways(node.whenTrue) : [], ...holds !== true ? ways(node.whenFalse) : []].slice(0, MOST_WAYS)
  }
  if (ts.isBinaryExpression(node)) {
    if (node.operatorToken.kind === ts.SyntaxKind.PlusToken && isText(node)) return joined([ways(node.left), ways(node.right)])
    if (node.operatorToken.kind === ts.SyntaxKind.QuestionQuestionToken || node.operatorToken.kind === ts.SyntaxKind.BarBarToken) return [...ways(node.left), ...ways(node.right)].slice(0, MOST_WAYS)
    if (node.operatorToken.kind === ts.SyntaxKind.AmpersandAmpersandToken) return ways(node.right)
    return [isLimit(node.left) ? whole(LIMIT) : whole(count)]
  }
  if (ts.isCallExpression(node)) return waysOfCall(node, count)
  return [isLimit(node) ? whole(LIMIT) : isCount(node) ? whole(count) : LONG_NAME]
}

function waysOfCall(node: ts.CallExpression, count: number): string[] {
  const argument = (i: number): string | undefined => node.arguments[i] && waysOf(node.arguments[i], count)[0]
  switch (node.expression.getText()) {
    case 'counted': return [counted(count, argument(1)!, argument(2))]
    case 'whole': return [isLimit(node.arguments[0]!) ? whole(LIMIT) : whole(count)]
    case 'signed': return [signed(count)]
    // A sentence that lists things lists at least one: where there may be none, another sentence is chosen before it.
    case 'listed': return [listed(Array.from({ length: Math.max(1, count) }, () => LONG_NAME))]
    case 'capitalised': return waysOf(node.arguments[0]!, count).map(capitalised)
    default: return [/\.(?:toFixed|toPrecision)$/.test(node.expression.getText()) ? whole(count) : LONG_NAME]
  }
}

/** What a condition about a number comes to, where it is one. */
function decided(node: ts.Node, count: number): boolean | undefined {
  if (ts.isParenthesizedExpression(node)) return decided(node.expression, count)
  if (ts.isPrefixUnaryExpression(node) && node.operator === ts.SyntaxKind.ExclamationToken) {
    const of = decided(node.operand, count)
    return of === undefined ? undefined : !of
  }
  if (!ts.isBinaryExpression(node)) return isCount(node) && /(?:length|size)$/.test(node.getText()) ? count > 0 : undefined
  const sides = [node.left, node.right]
  if (node.operatorToken.kind === ts.SyntaxKind.AmpersandAmpersandToken) return sides.some(side => decided(side, count) === false) ? false : undefined
  if (node.operatorToken.kind === ts.SyntaxKind.BarBarToken) return sides.some(side => decided(side, count) === true) ? true : undefined
  if (!isCount(node.left) || !ts.isNumericLiteral(node.right) && !isLimit(node.right)) return undefined
  const than = ts.isNumericLiteral(node.right) ? Number(node.right.text) : LIMIT
  switch (node.operatorToken.kind) {
    case ts.SyntaxKind.EqualsEqualsEqualsToken: return count === than
    case ts.SyntaxKind.ExclamationEqualsEqualsToken: return count !== than
    case ts.SyntaxKind.GreaterThanToken: return count > than
    case ts.SyntaxKind.LessThanToken: return count < than
    case ts.SyntaxKind.GreaterThanEqualsToken: return count >= than
    default: return undefined
  }
}

/** Whether a message is come to at all with so many: not, where a branch around it or a way out before it says otherwise. */
function isReached(node: ts.Node, count: number): boolean {
  for (let at: ts.Node = node; at.parent; at = at.parent) {
    const around = at.parent
    if (ts.isConditionalExpression(around) || ts.isIfStatement(around)) {
      const [condition, then, otherwise] = ts.isIfStatement(around) ? [around.expression, around.thenStatement, around.elseStatement] : [around.condition, around.whenTrue, around.whenFalse]
      if (at === then && decided(condition, count) === false || at === otherwise && decided(condition, count) === true) return false
    }
    if (ts.isBinaryExpression(around) && around.operatorToken.kind === ts.SyntaxKind.AmpersandAmpersandToken && at === around.right && decided(around.left, count) === false) return false
    if (ts.isBlock(around) && around.statements.some(one => one.pos < at.pos && ts.isIfStatement(one) && isWayOut(one.thenStatement) && decided(one.expression, count) === true)) return false
  }
  return true
}

function isWayOut(node: ts.Statement): boolean {
  const last = ts.isBlock(node) ? node.statements.at(-1) : node
  return last !== undefined && (ts.isReturnStatement(last) || ts.isThrowStatement(last) || ts.isContinueStatement(last))
}

const isLimit = (node: ts.Node): boolean => LIMIT_NAMES.test(node.getText())
const isCount = (node: ts.Node): boolean => !isLimit(node) && COUNT_NAMES.test(node.getText().replace(/[!)\]]+$/, ''))
const isText = (node: ts.BinaryExpression): boolean => [node.left, node.right].some(side => ts.isStringLiteral(side) || ts.isTemplateExpression(side) || ts.isBinaryExpression(side) && isText(side))
