import { describe, expect, it, vi } from 'vitest'
import { askName, nameProblem } from './useAskName'

describe('a name', () => {
  it('has something in it, and no more characters than can be kept', () => {
    expect(nameProblem('Night deck', 'tray')).toBeUndefined()
    expect(nameProblem('  ', 'tray')).toBe('It needs a name.')
    expect(nameProblem(`  ${'n'.repeat(80)}  `, 'tray')).toBeUndefined()
    expect(nameProblem('n'.repeat(81), 'tray')).toBe('A name has up to 80 characters; this one has 81.')
  })

  it('is asked for with what it could be, and comes back without what stands around it', async () => {
    const prompt = vi.fn(async (..._asked: unknown[]) => ({ value: '  Night deck ' }))
    vi.stubGlobal('ElMessageBox', { prompt })
    expect(await askName({ title: 'Rename', value: 'n'.repeat(90), does: 'Rename it', of: 'tray' })).toBe('Night deck')
    const [text, title, options] = prompt.mock.calls[0] as [string, string, { inputValue: string, inputValidator: (name: string) => true | string }]
    expect([text, title, options.inputValue.length]).toEqual(['', 'Rename', 80])
    expect([options.inputValidator('x'), options.inputValidator('')]).toEqual([true, 'It needs a name.'])
    vi.stubGlobal('ElMessageBox', { prompt: async () => Promise.reject(new Error('cancel')) })
    expect(await askName({ title: 'Rename', value: '', does: 'Rename it', of: 'tray' })).toBeUndefined()
  })
})
