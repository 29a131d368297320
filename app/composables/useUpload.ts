import { computed, ref } from 'vue'
import { EmporionError } from '~~/core/errors'
import type { JobView } from '~~/server/jobs/types'
import { api } from './useApi'
import type { Dropped, DroppedFolder } from './useDroppedFiles'

const AT_ONCE = 3

/** Copies what was dropped on the page to the server, and begins to bring it in. */
export function useUpload() {
  const done = ref(0)
  const total = ref(0)
  const name = ref('')
  let cancelling: AbortController | undefined
  const running = computed(() => total.value > 0)

  async function upload(dropped: Extract<Dropped, { type: 'archive' | 'folder' }>): Promise<JobView> {
    cancelling = new AbortController()
    try {
      return dropped.type === 'archive' ? await sendArchive(dropped.file) : await sendFolder(dropped)
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

  async function sendArchive(file: File): Promise<JobView> {
    begin(file.name, 1)
    return api<JobView>('/api/archives', { method: 'POST', query: { name: file.name.replace(/\.zip$/i, '') || 'archive' }, body: file, ...octets() })
  }

  async function sendFolder({ name: folder, files }: DroppedFolder): Promise<JobView> {
    if (files.length === 0) throw new EmporionError('invalid', { what: `There is no audio in "${folder}".`, kept: 'Nothing was brought in.', next: 'Drop a folder that holds WAV, AIFF, CAF, AU, FLAC, WavPack, MP3 or Ogg files.' })
    begin(folder, files.length)
    const { id } = await api<{ id: string }>('/api/uploads', { method: 'POST' })
    const waiting = [...files]
    const lane = async () => {
      for (let next = waiting.shift(); next; next = waiting.shift()) {
        cancelling?.signal.throwIfAborted()
        await api(`/api/uploads/${id}/file`, { method: 'PUT', query: { path: next.path }, body: next.file, ...octets() })
        done.value++
      }
    }
    try {
      await Promise.all(Array.from({ length: AT_ONCE }, lane))
      return await api<JobView>(`/api/uploads/${id}/finish`, { method: 'POST', body: { name: folder } })
    }
    catch (thrown) {
      await api(`/api/uploads/${id}`, { method: 'DELETE' }).catch(() => undefined)
      throw thrown
    }
  }

  function octets() {
    return { headers: { 'Content-Type': 'application/octet-stream' }, signal: cancelling?.signal }
  }

  return { name, done, total, running, upload, cancel: () => cancelling?.abort() }
}
