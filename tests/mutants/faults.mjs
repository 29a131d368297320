/**
 * Thirty deliberate faults in the server and the command line, each of a kind that is made in earnest: a condition turned round, a limit
 * that is off by one, a step left out. Each has to be found by the unit tests that are named beside it.
 *
 * @type {readonly { file: string, from: string, to: string, tests: string }[]}
 */
export const FAULTS = [
  { file: 'server/library/marks.ts', from: 'eq(handEdits.undone, redo)).groupBy', to: 'eq(handEdits.undone, !redo)).groupBy', tests: 'server/library/marks' },
  { file: 'server/library/marks.ts', from: 'await tx.delete(handEdits).where(eq(handEdits.undone, true))', to: '', tests: 'server/library/marks' },
  { file: 'server/library/marks.ts', from: 'filter(tag => !removed.has(tag)), ...patch.addTags', to: 'filter(tag => !removed.has(tag))', tests: 'server/library/marks' },
  { file: 'server/library/marks.ts', from: 'eq(sounds.fileCount, 0)', to: 'gt(sounds.fileCount, 0)', tests: 'server/library/marks' },
  { file: 'server/library/stepMarks.ts', from: 'count > MOST_AT_ONCE', to: 'count < MOST_AT_ONCE', tests: 'server/library/marks' },
  { file: 'server/library/trays.ts', from: '[from + 1, to - 1, -1, to - 1]', to: '[from + 1, to, -1, to]', tests: 'server/library/trays' },
  { file: 'server/library/trays.ts', from: '.set({ note: change.note }).where(soundOn(id, change.hash))', to: '.set({ note: change.note }).where(eq(traySounds.soundHash, change.hash))', tests: 'server/library/trays' },
  { file: 'server/library/trays.ts', from: 'position: end + i', to: 'position: i', tests: 'server/library/trays' },
  { file: 'server/library/sources.ts', from: 'liesBelow(config.vaultDir, real) || liesBelow(real, config.vaultDir)', to: 'liesBelow(config.vaultDir, real)', tests: 'server/library/sources' },
  { file: 'server/library/sources.ts', from: 'eq(sources.path, path), ne(sources.id, sourceId)', to: 'eq(sources.path, path), eq(sources.id, sourceId)', tests: 'server/library/sources' },
  { file: 'server/library/sources.ts', from: 'const isThere = and(eq(files.missing, false), eq(sources.paused, false))', to: 'const isThere = eq(files.missing, false)', tests: 'server/library/sources' },
  { file: 'server/library/rules.ts', from: 'and(eq(folderRules.id, ruleId), eq(folderRules.sourceId, sourceId))', to: 'eq(folderRules.id, ruleId)', tests: 'server/library/sources' },
  { file: 'server/library/record.ts', from: 'row.version < facts.figures.version', to: 'row.version <= facts.figures.version', tests: 'server/library/sources' },
  { file: 'server/library/record.ts', from: 'former_sound_id = CASE WHEN files.sound_id IS DISTINCT FROM excluded.sound_id', to: 'former_sound_id = CASE WHEN files.sound_id = excluded.sound_id', tests: 'server/library/handOn' },
  { file: 'server/library/handOn.ts', from: 'AND former.file_count = 0', to: '', tests: 'server/library/handOn' },
  { file: 'server/library/list.ts', from: 'kind !== undefined && kind !== row.found ? kind : mark.kind', to: 'kind !== undefined ? kind : mark.kind', tests: 'server/library/sources' },
  { file: 'server/library/times.ts', from: 'endSeconds: timing.leadSeconds + timing.effectiveSeconds', to: 'endSeconds: timing.effectiveSeconds', tests: 'server/library/sources' },
  { file: 'server/library/finder/rows.ts', from: 'columns[i + 1]!', to: 'columns[i]!', tests: 'server/library/sources' },
  { file: 'server/kits/drafts.ts', from: 'eq(kits.id, id), eq(kits.revision, baseRevision), isKnown', to: 'eq(kits.id, id), isKnown', tests: 'server/kits' },
  { file: 'server/kits/drafts.ts', from: 'eq(kits.presetId, from.presetId), eq(kits.presetRevision, from.presetRevision),', to: 'eq(kits.presetId, from.presetId),', tests: 'server/kits' },
  { file: 'server/patterns/store.ts', from: 'base.updatedAt.getTime() > PAUSE_MS', to: 'base.updatedAt.getTime() < PAUSE_MS', tests: 'server/patterns' },
  { file: 'server/patterns/store.ts', from: 'if (known && JSON.stringify', to: 'if (!known && JSON.stringify', tests: 'server/patterns' },
  { file: 'server/vault/index.ts', from: 'row?.folder === preset.folder ? indexed', to: 'row ? indexed', tests: 'server/vault/index' },
  { file: 'server/jobs/runner.ts', from: 'request.kind].isTakenUpAgain', to: 'request.kind].keepsThread', tests: 'server/jobs' },
  { file: 'server/jobs/runner.ts', from: 'onceBy(job.request) === key', to: 'onceBy(job.request) !== key', tests: 'server/jobs' },
  { file: 'server/jobs/kind.ts', from: 'schemas[kind].safeParse(stored).data', to: 'stored', tests: 'server/jobs' },
  { file: 'server/bounce/exports.ts', from: '!name.startsWith(\'.\') && Date.now()', to: 'Date.now()', tests: 'server/bounce/exports' },
  { file: 'server/base/roots.ts', from: 'root.endsWith(sep) ? root : root + sep', to: 'root', tests: 'server/base/roots' },
  { file: 'cli/command.ts', from: 'EXIT[code] ?? 1', to: '1', tests: 'cli/command' },
  { file: 'server/fit/targets.ts', from: 'else if (!SHIPPED_TARGETS.some', to: 'else if (SHIPPED_TARGETS.some', tests: 'server/fit/targets' },
]
