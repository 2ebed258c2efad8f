import { readDbc } from '@/core/bus/read-dbc'

// Reads a database away from the page, so that whoever waits can end it.
self.onmessage = (event: MessageEvent<{ text: string; name: string }>) => {
  self.postMessage(readDbc(event.data.text, event.data.name))
}
