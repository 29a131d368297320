/** Most characters of the names that people give, by what is named: the server refuses longer ones, and the page says so where they are typed. */
export const NAME_LENGTHS = { preset: 120, source: 200, tray: 80, search: 80 } as const

/** What people give a name to. */
export type Named = keyof typeof NAME_LENGTHS
