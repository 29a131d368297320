<script setup lang="ts">
import type { DropdownInstance } from 'element-plus'
import { useMenu } from '../parts/menu'

/** Shows the menu that a row, pad, preset or folder has, where it was asked for; the keyboard goes back to where it was. */
const menu = useMenu()
const dropdown = useTemplateRef<DropdownInstance>('dropdown')
const place = shallowRef({ getBoundingClientRect: () => new DOMRect() })
/** At the pointer, and whole in the window, however low that is. */
const POPPER = { strategy: 'fixed' as const, modifiers: [{ name: 'offset', options: { offset: [0, 0] } }, { name: 'preventOverflow', options: { altAxis: true, padding: 8 } }] }
let before: HTMLElement | undefined

watch(() => menu.shown, async (shown) => {
  if (!shown) return
  before = document.activeElement instanceof HTMLElement ? document.activeElement : undefined
  place.value = { getBoundingClientRect: () => shown.box }
  await nextTick()
  dropdown.value?.handleOpen()
})

const isEntry = (element: EventTarget | null): element is HTMLElement => element instanceof HTMLElement && element.matches('.row-menu [role="menuitem"]')

/** The menu itself takes the keyboard at some moment while it opens: it belongs to the entry that had it, or to the first. */
function handOn(event: FocusEvent): void {
  const entry = isEntry(event.relatedTarget) ? event.relatedTarget : document.querySelector<HTMLElement>('.row-menu [role="menuitem"]:not([aria-disabled="true"])')
  entry?.focus()
}

function visible(isOpen: boolean): void {
  if (isOpen) return
  menu.close()
  if (document.activeElement === document.body || document.activeElement?.closest('.row-menu')) before?.focus({ preventScroll: true })
}

function run(act: () => unknown): void {
  // What it does may move the keyboard on from there.
  before?.focus({ preventScroll: true })
  void act()
}
</script>

<template>
  <el-dropdown ref="dropdown" class="nowhere" :virtual-ref="place" virtual-triggering trigger="contextmenu" placement="bottom-start" :show-arrow="false" :popper-options="POPPER" max-height="calc(100vh - 16px)" popper-class="row-menu" @visible-change="visible" @command="run">
    <template #dropdown>
      <el-dropdown-menu v-if="menu.shown" :aria-label="menu.shown.title" @focus.self="handOn">
        <MenuItems :items="menu.shown.items" />
      </el-dropdown-menu>
    </template>
  </el-dropdown>
</template>

<style scoped>
.nowhere { position: absolute; }
</style>

<style>
.row-menu kbd { align-self: center; line-height: 16px; }
.row-menu .el-dropdown-menu__item { min-height: 26px; padding-block: 0; line-height: 26px; }
</style>
