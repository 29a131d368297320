import { once } from 'node:events'
import { existsSync, rmSync, statSync } from 'node:fs'
import { createServer, type Socket } from 'node:net'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { expect, it } from 'vitest'
import { connect } from './open'
import { makeSocketPlace } from './socket'

it('lies in a folder that no other user can enter, and goes with it', async () => {
  const place = await makeSocketPlace('linux')
  expect(place.address).toEqual({ host: dirname(place.path), port: 5432 })
  expect(statSync(dirname(place.path)).mode & 0o777).toBe(0o700)
  await place.remove()
  expect(existsSync(dirname(place.path))).toBe(false)
})

// Source: Node.js, net, "Identifying paths for IPC connections": paths on Windows begin with \\.\pipe\.
it('is a pipe of its own on Windows', async () => {
  const places = [await makeSocketPlace('win32'), await makeSocketPlace('win32')]
  for (const { path, address } of places) {
    expect(path).toMatch(/^\\\\\.\\pipe\\emporion-[0-9a-f-]{36}$/)
    expect(address).toEqual({ pipe: path })
  }
  expect(places[0]!.path).not.toBe(places[1]!.path)
})

it('is connected to by its path alone where it is a pipe', async () => {
  const path = join(tmpdir(), `emp-pipe-${process.pid}`)
  const server = createServer().listen(path)
  await once(server, 'listening')
  const { db, close } = connect({ pipe: path }, 1)
  const asked = db.execute('SELECT 1').catch((thrown: unknown) => thrown)
  const [socket] = await once(server, 'connection') as [Socket]
  const [startup] = await once(socket, 'data') as [Buffer]
  // Source: PostgreSQL, "Message Formats", StartupMessage: length, protocol 3.0, then pairs of names and values.
  expect(startup.readInt32BE(4)).toBe(196608)
  expect(startup.toString('latin1')).toContain('user\0postgres\0')
  socket.destroy()
  expect(await asked).toBeInstanceOf(Error)
  await close()
  server.close()
  rmSync(path, { force: true })
})
