import { counted } from '~~/core/wording'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { EmporionError } from '~~/core/errors'
import type { SoundRow } from '~~/contract/library'

export const MOST_COMPARED = 8

/** The sounds that are marked to be held against each other. */
export const useCompare = defineStore('compare', () => {
  const rows = shallowRef<readonly SoundRow[]>([])
  const isOpen = ref(false)
  const isBlind = ref(false)
  const cursor = ref(0)
  const atCursor = computed(() => rows.value[cursor.value])
  const isMarked = (hash: string) => rows.value.some(row => row.hash === hash)

  /** Marks sounds, or takes the mark away where all of them have it. @throws EmporionError `limit` */
  function mark(wanted: readonly SoundRow[]): void {
    const fresh = wanted.filter(row => !isMarked(row.hash))
    if (fresh.length === 0) return remove(wanted.map(row => row.hash))
    if (rows.value.length + fresh.length > MOST_COMPARED) {
      throw new EmporionError('limit', { what: `Up to ${MOST_COMPARED} sounds are compared at a time; ${counted(rows.value.length, 'sound')} ${rows.value.length === 1 ? 'is' : 'are'} marked.`, kept: 'The marks are as they were.', next: 'Take the mark off some of them first.' })
    }
    rows.value = [...rows.value, ...fresh]
  }

  function remove(hashes: readonly string[]): void {
    rows.value = rows.value.filter(row => !hashes.includes(row.hash))
    cursor.value = Math.min(cursor.value, Math.max(0, rows.value.length - 1))
    if (rows.value.length < 2) isOpen.value = false
  }

  /** Hides the names and changes the order, until one is chosen. */
  function goBlind(): void {
    isBlind.value = true
    rows.value = rows.value.map(row => ({ row, at: Math.random() })).sort((a, b) => a.at - b.at).map(entry => entry.row)
    cursor.value = 0
  }

  function clear(): void {
    rows.value = []
    isOpen.value = false
    isBlind.value = false
  }

  return { rows, isOpen, isBlind, cursor, atCursor, isMarked, mark, remove, goBlind, clear }
})
