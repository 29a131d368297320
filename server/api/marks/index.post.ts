import { markPatchSchema, setMarks } from '../../library/marks'
import { body, route } from '../../studio/route'

export default route(async ({ db, events }, event) => {
  const patch = await body(event, markPatchSchema)
  const edit = await setMarks(db, patch, titleOf(patch))
  if (edit.count > 0) events.send({ type: 'library' })
  return edit
})

function titleOf(patch: { kind?: string | null, addTags: readonly string[], removeTags: readonly string[], favourite?: boolean, note?: string }): string {
  const said = [
    patch.kind === undefined ? '' : patch.kind === null ? 'kind left to the witnesses' : `kind ${patch.kind}`,
    ...patch.addTags.map(tag => `tag "${tag}"`),
    ...patch.removeTags.map(tag => `tag "${tag}" taken away`),
    patch.favourite === undefined ? '' : patch.favourite ? 'favourite' : 'no favourite',
    patch.note === undefined ? '' : 'note',
  ]
  return said.filter(Boolean).join(', ')
}
