import { writeFileSync } from 'node:fs'
import { FEATURES_VERSION } from '../core/audio/analysis/features'
import { CLASSES } from '../core/audio/kinds/classes'
import type { StoredModel } from '../core/audio/kinds/model'
import { classProbabilities, type Network } from '../core/audio/kinds/network'
import { alteredExamples, distinct, madeExamples, type Example } from './examples'
import { learn, type Lesson } from './learn'
import { freepats, haveOpenSets, soundBank, tunedBank, type Labelled } from './openSets'
import { foldOf, FOLDS, reportOf, type Judged } from './report'

const MADE_PER_CLASS = 1600
const ALTERED = 20
const NETWORKS = 4
const SEED = 5
/** Of each weight that is stored: a thousandth of a weight changes nothing. */
const DIGITS = 4

if (!haveOpenSets()) {
  console.error('The labelled sets are not here. Install them: apt-get install timgm6mb-soundfont freepats fluidsynth')
  process.exit(1)
}

interface Recording {
  readonly recording: Labelled
  readonly asIs: Example
  readonly altered: readonly Example[]
}

function say(text: string): void {
  console.log(`${(performance.now() / 1000).toFixed(0).padStart(5)} s  ${text}`)
}

function recordingsOf(set: readonly Labelled[]): Recording[] {
  const entries = [...distinct(set)]
  return entries.map((entry, i) => {
    // Of the same part: a network that leaves a part out must not hear it beneath another recording.
    const mates = entries.map(({ recording }) => recording)
      .filter(other => other !== entry.recording && other.label === entry.recording.label && foldOf(other) === foldOf(entry.recording))
    return { ...entry, altered: [...alteredExamples(entry.recording, mates, ALTERED, SEED + i + 1)] }
  })
}

/** One network from our own sounds and some recordings. */
function train(made: readonly Example[], recordings: readonly Recording[], seed: number): Network {
  const examples = [...made, ...recordings.flatMap(entry => [entry.asIs, ...entry.altered])]
  const side = ({ label, set }: Example) => `${label} ${set === 'made'}`
  const counts = new Map<string, number>()
  for (const example of examples) counts.set(side(example), (counts.get(side(example)) ?? 0) + 1)
  const sides = (label: string) => [true, false].filter(isMade => counts.has(`${label} ${isMade}`)).length
  // Classes count alike, and within each those that were made as much as those that were recorded, however few there are.
  const lessons: Lesson[] = examples.map(example => ({
    features: example.features, label: CLASSES.findIndex(name => name === example.label), weight: 1 / counts.get(side(example))! / sides(example.label),
  }))
  return learn(lessons, SEED + seed)
}

function judge(networks: readonly Network[], recordings: readonly Recording[]): Judged[] {
  return recordings.map(({ asIs }) => {
    const probabilities = classProbabilities(asIs.features, networks)
    const best = probabilities.indexOf(Math.max(...probabilities))
    return { set: asIs.set, name: asIs.name, label: asIs.label, told: CLASSES[best]!, confidence: probabilities[best]! }
  })
}

function stored(networks: readonly Network[]): StoredModel {
  const rounded = (values: Float32Array) => Array.from(values, value => Number(value.toPrecision(DIGITS)))
  return {
    featuresVersion: FEATURES_VERSION,
    classes: CLASSES,
    networks: networks.map(network => ({
      means: rounded(network.means), scales: rounded(network.scales),
      hiddenWeights: rounded(network.hiddenWeights), hiddenBiases: rounded(network.hiddenBiases),
      outputWeights: rounded(network.outputWeights), outputBiases: rounded(network.outputBiases),
    })),
  }
}

function write(path: string, model: StoredModel): void {
  writeFileSync(path, `${JSON.stringify(model)}\n`)
}

const made = [...madeExamples(MADE_PER_CLASS, SEED)]
say(`${made.length} sounds made`)
const bank = recordingsOf(soundBank())
const tuned = recordingsOf(tunedBank())
const patches = recordingsOf(freepats())
say(`${bank.length} recordings of the sound bank, ${tuned.length} tuned ones, ${patches.length} patches`)
const networks = Array.from({ length: NETWORKS }, (_, i) => i)
const withoutPatches = judge(networks.map(i => train(made, [...bank, ...tuned], i)), patches)
const withoutBank = judge(networks.map(i => train(made, patches, i)), bank)
const byMadeAlone = judge(networks.map(i => train(made, [], i)), [...bank, ...patches])
say('trained without either set, and without both')
const recordings = [...bank, ...tuned, ...patches]
const judges = Array.from({ length: FOLDS }, (_, fold) => train(made, recordings.filter(entry => foldOf(entry.recording) !== fold), fold))
const heldOut = judges.flatMap((network, fold) => judge([network], [...bank, ...patches].filter(entry => foldOf(entry.recording) === fold)))
say('trained without a part each')
write('core/audio/kinds/model.json', stored(networks.map(i => train(made, recordings, i))))
write('train/judges.json', stored(judges))
writeFileSync('docs/kinds.md', reportOf({ heldOut, withoutPatches, withoutBank, byMadeAlone, made: made.length, recordings: recordings.length }))
say('wrote core/audio/kinds/model.json, train/judges.json and docs/kinds.md')
