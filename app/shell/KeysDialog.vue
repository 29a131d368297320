<script setup lang="ts">
import { chordLabel, chordOf, commandsOf, PLACES, type Command } from '../parts/keys/commands'
import { FIELDS, FLAG_NAMES, STATES } from '~~/core/search/query/fields'
import { useKeyChoices } from '../parts/keys/keys'

/** Every key, to be read and to be chosen otherwise; and how to search, on one screen. */
const open = defineModel<boolean>({ required: true })
const tab = defineModel<string>('tab', { default: 'keys' })

const choices = useKeyChoices()
const asking = ref<Command>()
const refused = ref('')

function ask(command: Command): void {
  asking.value = asking.value?.id === command.id ? undefined : command
  refused.value = ''
}

/** Takes the next key for the command that asks for one. */
function take(event: KeyboardEvent): void {
  const command = asking.value
  if (!command || ['Shift', 'Control', 'Alt', 'Meta', 'Tab'].includes(event.key)) return
  event.preventDefault()
  event.stopPropagation()
  if (event.key === 'Escape') {
    asking.value = undefined
    return
  }
  const chord = chordOf(event)
  const other = choices.choose(command, chord)
  refused.value = other ? `${chordLabel(chord)} is taken: ${other.does}. Give that another key first.` : ''
  if (!other) asking.value = undefined
}
</script>

<template>
  <el-dialog v-model="open" title="Keys and searching" width="860" top="5vh" append-to-body @close="asking = undefined">
    <el-tabs v-model="tab">
      <el-tab-pane label="Keys" name="keys">
        <p class="quiet">
          Click a key, or press <kbd>Enter</kbd> on it, then press the one that you want in its place.
          <span v-if="refused" class="lost" role="alert">{{ refused }}</span>
        </p>
        <div class="places" @keydown.capture="take">
          <section v-for="{ place, title } in PLACES" :key="place">
            <h2>{{ title }}</h2>
            <dl>
              <template v-for="command in commandsOf(place)" :key="command.id">
                <dt>{{ command.does }}</dt>
                <dd>
                  <kbd v-if="command.isFixed">{{ choices.keysOf(command).map(chordLabel).join(' or ') }}</kbd>
                  <button v-else type="button" class="key" :class="{ asks: asking?.id === command.id }" :aria-label="`Key for: ${command.does}`" @click="ask(command)">
                    {{ asking?.id === command.id ? 'press a key' : choices.keysOf(command).map(chordLabel).join(' or ') }}
                  </button>
                  <button v-if="choices.isChanged(command)" type="button" class="key" :aria-label="`Default key for: ${command.does}`" @click="choices.reset(command)">
                    ↺
                  </button>
                </dd>
              </template>
            </dl>
          </section>
        </div>
      </el-tab-pane>
      <el-tab-pane label="How to search" name="search">
        <div class="search">
          <section>
            <h2>Words</h2>
            <dl>
              <dt class="figure">dark kick</dt><dd>both, each at the beginning of a word of the name, folders, tags or note</dd>
              <dt class="figure">bd</dt><dd>what is called so, and below it what it means: every kick</dd>
              <dt class="figure">"deep kick"</dt><dd>these words in a row</dd>
              <dt class="figure">-loop</dt><dd>nothing with this; - stands before anything</dd>
              <dt class="figure">kick or snare</dt><dd>one of these two; the rest is asked beside it</dd>
              <dt class="figure">-(loop or fill)</dt><dd>brackets take several as one</dd>
            </dl>
            <p class="quiet">
              Where fewer than 100 are found, what is spelled nearly so, or holds these letters, follows below.
            </p>
            <h2>Figures</h2>
            <dl>
              <dt class="figure">length&lt;0.5</dt><dd>below; also &lt;= &gt; &gt;=</dd>
              <dt class="figure">bright=20..40</dt><dd>from one to the other; an end may be left out</dd>
              <dt class="figure">kind=kick,rim</dt><dd>one of several</dd>
            </dl>
            <h2>What is=… can be</h2>
            <p>{{ [...STATES.map(state => state.name), ...FLAG_NAMES].join(', ') }}</p>
          </section>
          <section>
            <h2>Conditions</h2>
            <dl>
              <template v-for="field in FIELDS" :key="field.name">
                <dt class="figure">
                  {{ field.example }}
                </dt><dd>{{ field.does }}</dd>
              </template>
            </dl>
          </section>
        </div>
      </el-tab-pane>
    </el-tabs>
    <template #footer>
      <el-button @click="choices.reset()">
        Reset all keys
      </el-button>
      <el-button type="primary" @click="open = false">
        Done
      </el-button>
    </template>
  </el-dialog>
</template>

<style scoped>
.places { columns: 2; column-gap: 28px; max-height: 62vh; overflow-y: auto; }
.places section { break-inside: avoid-column; margin-bottom: 12px; }
.search { display: grid; grid-template-columns: 5fr 6fr; gap: 28px; max-height: 62vh; overflow-y: auto; }
h2 { border-bottom: 1px solid var(--rule); color: var(--quiet); font-size: 12px; margin-top: 8px; }
dl { display: grid; grid-template-columns: 1fr auto; align-items: center; gap: 1px 10px; margin: 4px 0; }
.search dl { grid-template-columns: 168px 1fr; }
.search section:first-child dl { grid-template-columns: 124px 1fr; }
dd { margin: 0; }
.places dd { text-align: right; }
.key { min-width: 24px; min-height: 24px; padding: 0 6px; border: 1px solid var(--rule); border-radius: 2px; background: var(--sheet); color: var(--ink); font: 600 11px var(--figures); cursor: pointer; }
.key.asks { border-color: var(--accent); color: var(--accent); }
p { margin: 4px 0; }
</style>
