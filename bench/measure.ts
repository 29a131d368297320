/** One measured figure. Times are only ever judged beside the yardstick of the same run. */
export interface Figure {
  readonly name: string
  readonly value: number
  readonly unit: string
  /** What it stands beside, measured in the same run. */
  readonly yardstick?: { readonly name: string, readonly value: number }
  readonly note?: string
}

/** Milliseconds that something takes. */
export async function timed(work: () => Promise<unknown> | unknown): Promise<number> {
  const start = performance.now()
  await work()
  return performance.now() - start
}

/** The value below which so many of a hundred lie. */
export function percentile(values: readonly number[], percent: number): number {
  const sorted = values.toSorted((a, b) => a - b)
  return sorted[Math.min(sorted.length - 1, Math.ceil(sorted.length * percent / 100) - 1)] ?? Number.NaN
}

export function median(values: readonly number[]): number {
  return percentile(values, 50)
}

/** Prints a figure as a JSON line, or as a line for people. */
export function print(figure: Figure, json: boolean): void {
  if (json) {
    console.log(JSON.stringify({ ...figure, ...(figure.yardstick ? { ratio: figure.value / figure.yardstick.value } : {}) }))
    return
  }
  const beside = figure.yardstick ? `   beside ${figure.yardstick.name}: ${figure.yardstick.value.toFixed(1)} ${figure.unit}, ratio ${(figure.value / figure.yardstick.value).toFixed(2)}` : ''
  console.log(`${figure.name.padEnd(58)} ${figure.value.toFixed(1).padStart(9)} ${figure.unit}${beside}${figure.note ? `   (${figure.note})` : ''}`)
}
