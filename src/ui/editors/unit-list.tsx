import { units } from '@/core/signal/unit'

/** Every unit that is known, for fields that offer them by this id. */
export const UnitList = ({ id }: { id: string }) => (
  <datalist id={id}>
    {units.map((u) => (
      <option key={u.symbol} value={u.symbol}>
        {u.name}
      </option>
    ))}
  </datalist>
)
