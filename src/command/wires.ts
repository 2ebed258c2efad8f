import { connect } from 'node:net'
import { SerialPort } from 'serialport'
import type { OpenWire } from '../check/wire'

/** A TCP connection to check over. */
export const tcpWire =
  (host: string, port: number): OpenWire =>
  (events) =>
    new Promise((resolve, reject) => {
      const socket = connect({ host, port, noDelay: true, timeout: 4000 })
      socket.once('connect', () => {
        socket.setTimeout(0)
        resolve({ send: (data) => socket.write(data), close: () => socket.destroy() })
      })
      socket.on('timeout', () => socket.destroy(new Error('nobody answers there')))
      socket.on('data', (bytes) => events.received(bytes))
      socket.on('error', (error: NodeJS.ErrnoException) =>
        reject(
          new Error(
            error.code === 'ECONNREFUSED' ? `nobody answers on port ${port} of ${host}` : error.message,
          ),
        ),
      )
      socket.on('close', () => events.closed())
    })

/** A serial port to check over. */
export const serialWire =
  (path: string, speed: number): OpenWire =>
  (events) =>
    new Promise((resolve, reject) => {
      const port = new SerialPort({ path, baudRate: speed, autoOpen: false })
      port.on('data', (bytes: Buffer) => events.received(bytes))
      port.on('error', () => events.closed())
      port.on('close', () => events.closed())
      port.open((error) => {
        if (error) reject(new Error(`${path} cannot be opened: ${error.message}`))
        else
          resolve({
            send: (data) => port.write(Buffer.from(data)),
            close: () => {
              if (port.isOpen) port.close(() => {})
            },
          })
      })
    })

/** An address as it is typed: HOST:PORT, with brackets round an address of version 6; null for what is none. */
export const hostAndPortOf = (text: string): { readonly host: string; readonly port: number } | null => {
  const found = /^(?:\[([^\]]+)\]|([^:/]+)):(\d{1,5})$/.exec(text)
  const port = Number(found?.[3])
  const host = found?.[1] ?? found?.[2]
  return host !== undefined && port >= 1 && port <= 65_535 ? { host, port } : null
}
