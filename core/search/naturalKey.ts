import { fold } from './tokens'

/**
 * A key whose plain comparison by code points sorts names as people count: `Tom 2` before `Tom 10`. Runs of digits
 * are written with their length in front, after leading zeros are dropped.
 */
export function naturalKey(name: string): string {
  return fold(name).replace(/\d+/g, (digits) => {
    const plain = digits.replace(/^0+(?=\d)/, '')
    return `${String(Math.min(99, plain.length)).padStart(2, '0')}${plain}`
  })
}
