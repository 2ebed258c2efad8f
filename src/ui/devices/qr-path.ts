import qrcode from 'qrcode-generator'

/** A text as the dark squares of a code to be read by a camera, as path data, and how many squares it is wide. */
export const qrPath = (text: string): { readonly size: number; readonly d: string } => {
  const code = qrcode(0, 'M')
  code.addData(text)
  code.make()
  const size = code.getModuleCount()
  let d = ''
  for (let y = 0; y < size; y++)
    for (let x = 0; x < size; x++) if (code.isDark(y, x)) d += `M${x} ${y}h1v1h-1z`
  return { size, d }
}
