import { sourceRoutes, uploadRoutes } from '~~/contract/sources'
import { fitRoutes } from '~~/contract/fit'
import { createSharedComposable } from '@vueuse/core'
import { computed, ref } from 'vue'
import { EmporionError } from '~~/core/errors'
import type { JobView } from '~~/contract/jobs'
import type { SoundRow } from '~~/contract/library'
import { useJobs } from './jobs'
import { api } from './useApi'
import type { Dropped, DroppedFile, DroppedFolder, DroppedKit } from './useDroppedFiles'

const AT_ONCE = 3
const ROWS_A_REQUEST = 500
/** As many as a tray holds. */
const MOST_SOUNDS = 10_000

export type Uploadable = Extract<Dropped, { type: 'archive' | 'folder' }>

/** Copies what was dropped on the page to the server: to be brought in as a source, or to be read as a kit. */
export const useUpload = createSharedComposable(() => {
  const jobs = useJobs()
  const done = ref(0)
  const total = ref(0)
  const name = ref('')
  let cancelling: AbortController | undefined
  const running = computed(() => total.value > 0)

  /** Brings it in; its job goes on by itself. */
  async function upload(dropped: Uploadable): Promise<void> {
    await cancellable<unknown>(() => dropped.type === 'archive' ? sendArchive(dropped.file) : sendFolder(dropped))
  }

  /** Brings it in and waits until it is read; gives its sounds, in the order of their paths. */
  async function bringIn(dropped: Uploadable): Promise<SoundRow[]> {
    const sourceId = await cancellable(async () => {
      if (dropped.type === 'archive') {
        const { sourceId: unpacked } = await jobs.finished(await sendArchive(dropped.file))
        await jobs.finished(await api(sourceRoutes.scan, { params: { id: unpacked } }))
        return unpacked
      }
      const begun = await sendFolder(dropped)
      await jobs.finished(begun.job)
      return begun.sourceId
    })
    const rows: SoundRow[] = []
    for (let total = Infinity; rows.length < Math.min(total, MOST_SOUNDS);) {
      const page = await api(sourceRoutes.sounds, { params: { id: sourceId }, query: { offset: rows.length, limit: ROWS_A_REQUEST } })
      if (page.shown.length === 0) break
      total = page.total
      rows.push(...page.shown)
    }
    if (rows.length === 0) throw new EmporionError('unreadable', { what: `Nothing in "${nameOf(dropped)}" could be read as audio.`, kept: 'No pad and no tray was changed.', next: 'The reasons are listed under Sources.' })
    return rows
  }

  /** Hands over a kit of another sampler; gives where it lies on the server. */
  async function sendKit(kit: DroppedKit): Promise<string> {
    const files = kit instanceof File ? [{ path: kit.name, file: kit }] : [...kit.files, ...kit.others]
    const { path } = await cancellable(() => sendFiles(kit.name, files, id => api(fitRoutes.uploadedForeign, { body: { id, name: kit.name } })))
    return path
  }

  async function cancellable<T>(work: () => Promise<T>): Promise<T> {
    cancelling = new AbortController()
    try {
      return await work()
    }
    catch (thrown) {
      if (cancelling.signal.aborted) throw new EmporionError('cancelled', 'Cancelled.')
      throw thrown
    }
    finally {
      total.value = 0
    }
  }

  function begin(what: string, count: number): void {
    name.value = what
    done.value = 0
    total.value = count
  }

  async function sendArchive(file: File): Promise<JobView<'unpack'>> {
    begin(file.name, 1)
    const job = await api(uploadRoutes.archive, { query: { name: file.name.replace(/\.zip$/i, '') || 'archive' }, body: file, signal: cancelling?.signal })
    total.value = 0
    return job
  }

  function sendFolder({ name: folder, files }: DroppedFolder): Promise<{ readonly sourceId: number, readonly job: JobView<'scan'> }> {
    if (files.length === 0) throw new EmporionError('invalid', { what: `There is no audio in "${folder}".`, kept: 'Nothing was brought in.', next: 'Drop a folder that holds WAV, AIFF, CAF, AU, FLAC, WavPack, MP3 or Ogg files.' })
    return sendFiles(folder, files, id => api(uploadRoutes.finish, { params: { id }, body: { name: folder } }))
  }

  async function sendFiles<T>(what: string, files: readonly DroppedFile[], finish: (id: string) => Promise<T>): Promise<T> {
    begin(what, files.length)
    const { id } = await api(uploadRoutes.begin)
    const waiting = [...files]
    const lane = async () => {
      for (let next = waiting.shift(); next; next = waiting.shift()) {
        cancelling?.signal.throwIfAborted()
        await api(uploadRoutes.file, { params: { id }, query: { path: next.path }, body: next.file, signal: cancelling?.signal })
        done.value++
      }
    }
    try {
      await Promise.all(Array.from({ length: AT_ONCE }, lane))
      return await finish(id)
    }
    catch (thrown) {
      await api(uploadRoutes.abandon, { params: { id } }).catch(() => undefined)
      throw thrown
    }
    finally {
      total.value = 0
    }
  }

  return { name, done, total, running, upload, bringIn, sendKit, cancel: () => cancelling?.abort() }
})

function nameOf(dropped: Uploadable): string {
  return dropped.type === 'archive' ? dropped.file.name : dropped.name
}
