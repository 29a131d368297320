import { get } from './endpoint'

/** Where the studio keeps what it keeps. */
export interface StudioStatus {
  readonly dataDir: string
  readonly vaultDir: string
  /** Folders that samples may be read from. */
  readonly roots: readonly string[]
}

export const studioRoutes = {
  status: get('/api/status', 'Where data and vault lie, and what folders may be read.').answers<StudioStatus>(),
  report: get('/api/report', 'The log, versions and counts, without names of files, to be saved and sent to whoever can help.').sends(),
  events: get('/api/events', 'What happens, as server-sent events.').sends(),
}
