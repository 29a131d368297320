import { createError, defineEventHandler, getRequestHeader, setResponseHeaders } from 'h3'
import { defineNitroPlugin } from 'nitropack/runtime'
import { refusalFor } from '../studio/doorkeeper'

const PAGE_RULES = [
  'default-src \'self\'',
  'script-src \'self\' \'unsafe-inline\' \'wasm-unsafe-eval\'',
  'worker-src \'self\' blob:',
  'style-src \'self\' \'unsafe-inline\'',
  'img-src \'self\' data:',
  'media-src \'self\' blob:',
  'font-src \'self\' data:',
  'frame-ancestors \'none\'',
].join('; ')

/** Turns away requests that were not meant for this server, before any route or file is looked at. */
export default defineNitroPlugin((nitro) => {
  const port = Number(process.env.NITRO_PORT ?? 4310)
  const handler = defineEventHandler((event) => {
    const refusal = refusalFor({
      method: event.method,
      host: getRequestHeader(event, 'host'),
      origin: getRequestHeader(event, 'origin'),
      site: getRequestHeader(event, 'sec-fetch-site'),
      mode: getRequestHeader(event, 'sec-fetch-mode'),
      path: event.path,
      hosts: event.node.req.rawHeaders.filter((text, i) => i % 2 === 0 && text.toLowerCase() === 'host').length,
    }, port)
    if (refusal) throw createError({ statusCode: 403, message: refusal, data: { code: 'refused' } })
    setResponseHeaders(event, {
      'X-Content-Type-Options': 'nosniff',
      'X-Frame-Options': 'DENY',
      'Cross-Origin-Resource-Policy': 'same-origin',
      'Referrer-Policy': 'no-referrer',
      'Content-Security-Policy': PAGE_RULES,
    })
  })
  // Ahead of the handler of static files, which a middleware would come after.
  nitro.h3App.stack.unshift({ route: '/', handler })
})
