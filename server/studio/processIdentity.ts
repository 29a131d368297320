import { execFile } from 'node:child_process'
import { readFile } from 'node:fs/promises'
import { promisify } from 'node:util'

const run = promisify(execFile)
/** Where a line of `/proc/PID/stat` states when the process began, counted from behind the name. Source: proc(5), field 22. */
const START_FIELD = 22 - 3

/**
 * When a process began, as a text that is the same whenever it is asked and another for every later process of that number; null
 * where there is no such process.
 */
export async function startOfProcess(pid: number): Promise<string | null> {
  if (process.platform === 'linux') {
    try {
      const [stat, boot] = await Promise.all([readFile(`/proc/${pid}/stat`, 'utf8'), readFile('/proc/sys/kernel/random/boot_id', 'utf8')])
      // The name is in parentheses, and may hold any character.
      const start = stat.slice(stat.lastIndexOf(')') + 2).split(' ')[START_FIELD]
      return start === undefined ? null : `${boot.trim()} ${start}`
    }
    catch {
      return null
    }
  }
  const [program, ...args] = process.platform === 'win32'
    ? ['powershell', '-NoProfile', '-Command', `(Get-Process -Id ${pid}).StartTime.ToFileTimeUtc()`]
    : ['ps', '-o', 'lstart=', '-p', String(pid)]
  return run(program!, args).then(({ stdout }) => stdout.trim() || null, () => null)
}
