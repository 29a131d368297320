import { fileURLToPath } from 'node:url'
import { describe, expect, it } from 'vitest'
import { isCheckout, npmCommand, openCommand, usualData } from './places.mjs'

const place = (platform: NodeJS.Platform, home: string, env: NodeJS.ProcessEnv = {}) => ({ root: '/usr/lib/node_modules/emporion', isCheckout: false, platform, env, home })

describe('where data is kept', () => {
  it('lies beside the sources of a checkout', () => {
    expect(usualData({ ...place('linux', '/home/ada'), root: '/work/emporion', isCheckout: true }, 'demo')).toBe('/work/emporion/.data/demo')
  })

  // Source: XDG Base Directory Specification 0.8: $XDG_DATA_HOME, by default $HOME/.local/share; relative paths are ignored.
  it('is where the XDG specification has it on Linux', () => {
    expect(usualData(place('linux', '/home/ada'), 'own')).toBe('/home/ada/.local/share/emporion/own')
    expect(usualData(place('linux', '/home/ada', { XDG_DATA_HOME: '/data/ada' }), 'own')).toBe('/data/ada/emporion/own')
    expect(usualData(place('linux', '/home/ada', { XDG_DATA_HOME: 'data' }), 'own')).toBe('/home/ada/.local/share/emporion/own')
  })

  // Source: Apple, File System Programming Guide, "Application Support".
  it('is in Application Support on macOS', () => {
    expect(usualData(place('darwin', '/Users/ada'), 'demo')).toBe('/Users/ada/Library/Application Support/Emporion/demo')
  })

  // Source: Microsoft, KNOWNFOLDERID, FOLDERID_LocalAppData: %LOCALAPPDATA%, %USERPROFILE%\AppData\Local.
  it('is in the local application data on Windows', () => {
    expect(usualData(place('win32', 'C:\\Users\\ada', { LOCALAPPDATA: 'D:\\Local' }), 'own')).toBe('D:\\Local\\Emporion\\own')
    expect(usualData(place('win32', 'C:\\Users\\ada'), 'own')).toBe('C:\\Users\\ada\\AppData\\Local\\Emporion\\own')
  })
})

describe('programs of the system', () => {
  it('open an address without a shell that would read it', () => {
    expect([openCommand('linux', 'http://x'), openCommand('darwin', 'http://x'), openCommand('win32', 'http://x')])
      .toEqual([{ command: 'xdg-open', args: ['http://x'] }, { command: 'open', args: ['http://x'] }, { command: 'explorer.exe', args: ['http://x'] }])
  })

  it('npm is a command file on Windows', () => {
    expect([npmCommand('win32'), npmCommand('linux')]).toEqual([{ command: 'npm.cmd', shell: true }, { command: 'npm', shell: false }])
  })

  it('this is a checkout, and a folder of it is none', () => {
    expect([isCheckout(fileURLToPath(new URL('../..', import.meta.url))), isCheckout(fileURLToPath(new URL('.', import.meta.url)))]).toEqual([true, false])
  })
})
