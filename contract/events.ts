import type { JobView } from './jobs'

/** What the page is reported without asking. */
export type StudioEvent =
  | { readonly type: 'job', readonly job: JobView }
  /** `isArriving` while a scan goes on: there is more, and it may be seen a moment later. */
  | { readonly type: 'library', readonly isArriving?: boolean }
  | { readonly type: 'vault' }
  | { readonly type: 'tray', readonly trayId: number, readonly from: string }
  | { readonly type: 'trays' }
  | { readonly type: 'searches' }
  | { readonly type: 'kits' }
  | { readonly type: 'patterns' }
  | { readonly type: 'pattern', readonly patternId: string, readonly revision: number, readonly from: string }
  /** `usesOthers` where it has other sounds than before. */
  | { readonly type: 'kit', readonly kitId: string, readonly revision: number, readonly from: string, readonly usesOthers: boolean }
