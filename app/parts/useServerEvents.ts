import { studioRoutes } from '~~/contract/studio'
import { createEventHook } from '@vueuse/core'
import { eventSchema, type StudioEvent } from '~~/contract/events'

/** Names this tab, so that it knows its own edits when they come back. */
export const tabId = crypto.randomUUID()

const events = createEventHook<StudioEvent>()
const reconnected = createEventHook()
let source: EventSource | undefined

/** Opens the one stream of events from the server; the browser opens it anew whenever it breaks. */
export function openServerEvents(): void {
  if (source) return
  source = new EventSource(studioRoutes.events.path)
  source.addEventListener('message', message => void events.trigger(eventSchema.parse(JSON.parse(String(message.data)))))
  source.addEventListener('error', () => {
    if (source?.readyState === EventSource.CLOSED) {
      source = undefined
      setTimeout(openServerEvents, 1500)
    }
  })
  source.addEventListener('open', () => {
    // The first time as well: what changed between the first look and this is told to nobody.
    void reconnected.trigger(null)
  })
}

/** Calls back with every event from the server. */
export const onServerEvent = events.on
/** Calls back when the server is there: at first, and again after it was away. */
export const onReconnected = reconnected.on
