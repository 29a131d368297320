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
  events: get('/api/events', 'What happens, as server-sent events.').sends(),
}
