import { existsSync } from 'node:fs'
import * as nodePath from 'node:path'

/**
 * A checkout builds itself; a package comes built, and has no sources.
 *
 * @param {string} root
 */
export function isCheckout(root) {
  return existsSync(nodePath.join(root, 'app')) && existsSync(nodePath.join(root, 'package-lock.json'))
}

/**
 * Where data is kept unless another place is named: beside the sources of a checkout; for a package, which is replaced by its next
 * version, where the system keeps the data of its user's programs. Sources: XDG Base Directory Specification; Apple, File System
 * Programming Guide; Microsoft, Known Folders (`FOLDERID_LocalAppData`).
 *
 * @param {{ root: string, isCheckout: boolean, platform: NodeJS.Platform, env: NodeJS.ProcessEnv, home: string }} of
 * @param {'demo' | 'own'} which
 */
export function usualData({ root, isCheckout, platform, env, home }, which) {
  const path = platform === 'win32' ? nodePath.win32 : nodePath.posix
  if (isCheckout) return path.join(root, '.data', which)
  if (platform === 'win32') return path.join(env.LOCALAPPDATA || path.join(home, 'AppData', 'Local'), 'Emporion', which)
  if (platform === 'darwin') return path.join(home, 'Library', 'Application Support', 'Emporion', which)
  const shared = env.XDG_DATA_HOME && path.isAbsolute(env.XDG_DATA_HOME) ? env.XDG_DATA_HOME : path.join(home, '.local', 'share')
  return path.join(shared, 'emporion', which)
}

/**
 * The command that opens an address in the browser of the system.
 *
 * @param {NodeJS.Platform} platform
 * @param {string} url
 * @returns {{ command: string, args: string[] }}
 */
export function openCommand(platform, url) {
  if (platform === 'win32') return { command: 'explorer.exe', args: [url] }
  return { command: platform === 'darwin' ? 'open' : 'xdg-open', args: [url] }
}

/**
 * How npm is started: on Windows it is a command file, which needs the shell.
 *
 * @param {NodeJS.Platform} platform
 */
export function npmCommand(platform) {
  return platform === 'win32' ? { command: 'npm.cmd', shell: true } : { command: 'npm', shell: false }
}
