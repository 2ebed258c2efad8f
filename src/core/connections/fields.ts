import { z } from 'zod'
import type { ConnectionField } from './kind'

/** A computer by its name or address, as one types it. */
export const host = z
  .string()
  .trim()
  .min(1, 'a computer is needed: its name or its address')
  .max(253)
  .regex(/^[\p{L}\p{N}._:%-]+$/u, 'that is no name or address of a computer')

export const portNumber = z.int().min(1, 'ports are 1 to 65535').max(65_535, 'ports are 1 to 65535')

/** Put in front of every name that a source tells, so that names of two sources are told apart. */
export const prefix = z
  .string()
  .max(24)
  .regex(/^([\p{L}_][\p{L}\p{N}_.]*)?$/u, 'it begins with a letter and has letters, digits, _ and . only')
  .default('')

export const hostField: ConnectionField = {
  key: 'host',
  label: 'Computer',
  as: 'text',
  hint: 'its name or address, such as 192.168.1.20; 127.0.0.1 is this one',
}
export const portField: ConnectionField = {
  key: 'port',
  label: 'Port',
  as: 'port number',
  hint: '1 to 65535',
}
export const prefixField: ConnectionField = {
  key: 'prefix',
  label: 'Names begin with',
  as: 'text',
  hint: 'put in front of each of its names; empty where it is the only source',
}

/** An address with its port; an address of version 6 stands in brackets. */
export const hostAndPort = (h: string, port: number): string =>
  h.includes(':') ? `[${h}]:${port}` : `${h}:${port}`
