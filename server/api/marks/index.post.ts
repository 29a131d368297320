import { markRoutes, type MarkPatch } from '../../../contract/marks'
import { MOST_AT_ONCE, setMarks } from '../../library/marks'
import { route } from '../../studio/route'

/** Sets it at once, or, for many sounds, by a job. */
export default route(markRoutes.set, async ({ db, events, jobs }, { body: patch }) => {
  const label = labelOf(patch)
  if (patch.ids.length > MOST_AT_ONCE) return { job: await jobs.add({ kind: 'mark', patch, said: label }) }
  const edit = await setMarks(db, patch, label)
  if (edit.count > 0) events.send({ type: 'library' })
  return { edit }
})

function labelOf(patch: MarkPatch): string {
  const label = [
    patch.kind === undefined ? '' : patch.kind === null ? 'kind left to the witnesses' : `kind ${patch.kind}`,
    ...patch.addTags.map(tag => `tag "${tag}"`),
    ...patch.removeTags.map(tag => `tag "${tag}" taken away`),
    patch.favourite === undefined ? '' : patch.favourite ? 'favourite' : 'no favourite',
    patch.note === undefined ? '' : 'note',
    patch.aside === undefined ? '' : patch.aside ? 'set aside' : 'no longer set aside',
  ]
  return label.filter(Boolean).join(', ')
}
