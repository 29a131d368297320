import { defineNitroPlugin } from 'nitropack/runtime'
import { messageOf } from '../../core/errors'
import { useStudio } from '../studio/studio'

/** Opens the studio with the server and closes it with it. */
export default defineNitroPlugin((nitro) => {
  // Whoever reads what is printed may go away, as a closed terminal does: that must not be printed in turn, without end.
  for (const stream of [process.stdout, process.stderr]) stream.on('error', () => undefined)
  const studio = useStudio()
  studio.then(
    ({ config }) => console.log(`Emporion is open on http://127.0.0.1:${config.port}`),
    (thrown: unknown) => {
      console.error(messageOf(thrown))
      process.exit(1)
    },
  )
  nitro.hooks.hook('close', async () => (await studio).close())
  for (const signal of ['SIGINT', 'SIGTERM'] as const) {
    process.once(signal, () => {
      studio.then(open => open.close()).finally(() => process.exit(0))
    })
  }
})
