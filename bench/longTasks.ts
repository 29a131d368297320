import type { Page } from '@playwright/test'

type Watched = Window & { longTasks?: number[] }

/** Watches the tasks of a page from now on. The second call tells how long those over 50 ms took, in ms: Chromium reports no others. */
export async function watchTasks(page: Page): Promise<() => Promise<number[]>> {
  await page.evaluate(() => {
    const tasks: number[] = (window as Watched).longTasks = []
    new PerformanceObserver(list => tasks.push(...list.getEntries().map(entry => entry.duration))).observe({ type: 'longtask' })
  })
  return () => page.evaluate(() => (window as Watched).longTasks ?? [])
}
