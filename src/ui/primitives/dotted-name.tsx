import { Fragment } from 'react'

/** A name with dots, that may go on in the next line behind any of them. */
export const DottedName = ({ name }: { name: string }) =>
  name.split(/(?<=\.)/).map((piece, at, all) => (
    <Fragment key={all.slice(0, at + 1).join('')}>
      {piece}
      <wbr />
    </Fragment>
  ))
