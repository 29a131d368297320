import { bounceRoutes } from './bounce'
import type { Endpoint } from './endpoint'
import { fitRoutes, targetRoutes } from './fit'
import { jobRoutes } from './jobs'
import { kitRoutes } from './kits'
import { libraryRoutes, soundRoutes } from './library'
import { markRoutes } from './marks'
import { patternRoutes } from './patterns'
import { searchRoutes } from './searches'
import { demoRoutes, folderRoutes, sourceRoutes, uploadRoutes } from './sources'
import { studioRoutes } from './studio'
import { trayRoutes } from './tray'
import { vaultRoutes } from './vault'

/** All that the server is asked, by areas in the order of work. */
export const AREAS: Readonly<Record<string, Readonly<Record<string, Endpoint>>>> = {
  'The studio': studioRoutes,
  'Sources': sourceRoutes,
  'Uploads': uploadRoutes,
  'Folders of this computer': folderRoutes,
  'The demo': demoRoutes,
  'Sounds': soundRoutes,
  'The library': libraryRoutes,
  'Marks': markRoutes,
  'Searches and favourite folders': searchRoutes,
  'Trays': trayRoutes,
  'Kits': kitRoutes,
  'Patterns': patternRoutes,
  'Bounces': bounceRoutes,
  'Fit': fitRoutes,
  'Targets': targetRoutes,
  'The vault': vaultRoutes,
  'Jobs': jobRoutes,
}

export const ENDPOINTS: readonly Endpoint[] = Object.values(AREAS).flatMap(area => Object.values(area))
