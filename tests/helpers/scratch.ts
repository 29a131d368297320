import { chmodSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

/** Makes one folder for all that the tests of a run write, and answers what removes it at the end: disks fill by testing every day. */
export default function scratch(): () => void {
  const folder = mkdtempSync(join(tmpdir(), 'emp-run-'))
  // Where root runs the tests, PostgreSQL runs as nobody, and has its files in there.
  chmodSync(folder, 0o711)
  process.env.TMPDIR = folder
  return () => rmSync(folder, { recursive: true, force: true })
}
