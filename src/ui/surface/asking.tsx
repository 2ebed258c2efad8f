'use client'
import { Sheet } from '../primitives/sheet'
import { useSurface } from './view-store'

/** Asks once, by name, before something that takes more with it than is seen. */
export const Asking = () => {
  const asking = useSurface((s) => s.asking)
  const close = () => useSurface.setState({ asking: null })
  return (
    <Sheet
      title="Remove"
      titleShown
      className="w-[420px] p-4"
      open={asking !== null}
      setOpen={(open) => !open && close()}
    >
      <p>{asking?.words}</p>
      <div className="mt-3 flex justify-end gap-2">
        <button type="button" className="btn" onClick={close}>
          Keep
        </button>
        <button
          type="button"
          className="btn"
          data-strong="true"
          onClick={() => {
            asking?.act()
            close()
          }}
        >
          Remove
        </button>
      </div>
    </Sheet>
  )
}
