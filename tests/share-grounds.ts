import { inject } from 'vitest'
import { share } from './grounds'

share({ chromium: inject('chromium'), folder: inject('folder') })
