import { once } from 'node:events'
import { createServer, type Server } from 'node:http'
import { connect, type AddressInfo, type Socket } from 'node:net'
import { PassThrough, Readable } from 'node:stream'
import { createApp, createError, createRouter, eventHandler, toNodeListener } from 'h3'
import { afterAll, beforeAll, beforeEach, expect, it } from 'vitest'
import { sendStreamed } from './streamed'

let server: Server
let socket: Socket
let output: string
let endless: PassThrough

const ask = (...paths: string[]) => socket.write(paths.map(path => `GET ${path} HTTP/1.1\r\nHost: here\r\n\r\n`).join(''))
const heard = async (part: string) => {
  while (!output.includes(part)) await once(socket, 'data')
}

beforeAll(async () => {
  const router = createRouter()
    .get('/whole', eventHandler(event => sendStreamed(event, Readable.from(['one ', 'whole ', 'answer.']))))
    .get('/endless', eventHandler((event) => {
      server.emit('endless')
      return sendStreamed(event, endless)
    }))
    .get('/none', eventHandler(event => sendStreamed(event, Readable.from((async function* () {
      yield* []
      throw createError({ statusCode: 404 })
    })()))))
    .get('/half', eventHandler(event => sendStreamed(event, Readable.from((async function* () {
      yield 'the first half'
      throw new Error('The drive went away.')
    })()))))
  server = createServer(toNodeListener(createApp().use(router))).listen(0, '127.0.0.1')
  await once(server, 'listening')
})
afterAll(() => server.close())

beforeEach(async () => {
  output = ''
  endless = new PassThrough()
  socket = connect((server.address() as AddressInfo).port, '127.0.0.1').setEncoding('latin1')
  socket.on('data', piece => output += String(piece))
  await once(socket, 'connect')
  return () => socket.destroy()
})

it('requests that come over one connection before the answer to the last is out are all answered, in their order', async () => {
  ask('/whole', '/whole', '/endless')
  endless.write('goes on')
  await heard('goes on')
  expect(output.match(/200 OK/g)).toHaveLength(3)
  expect(output.match(/one .*whole .*answer\..*one .*whole .*answer\..*goes on/s)).not.toBeNull()
})

it('what fails before anything was sent is reported, and the connection stays', async () => {
  ask('/none', '/whole')
  await heard('answer.')
  expect(output).toMatch(/ 404 .* 200 OK/s)
})

it('what fails in the middle cuts the connection: a part is not taken for the whole', async () => {
  ask('/half')
  await once(socket, 'close')
  expect(output).toContain('the first half')
  expect(output).not.toContain('\r\n0\r\n')
})

it('the stream of somebody who went away is closed, whether it was their turn or not', async () => {
  ask('/endless')
  endless.write('begun')
  await heard('begun')
  const waiting = endless
  endless = new PassThrough()
  const isAsked = once(server, 'endless')
  ask('/endless')
  await isAsked
  socket.destroy()
  await Promise.all([waiting, endless].map(stream => stream.destroyed || once(stream, 'close')))
})
