/** Quantities that can be converted into each other share a dimension. */
export type Dimension =
  | 'length'
  | 'speed'
  | 'angle'
  | 'turning'
  | 'time'
  | 'temperature'
  | 'pressure'
  | 'mass'
  | 'mass flow'
  | 'volume'
  | 'voltage'
  | 'current'
  | 'charge'
  | 'power'
  | 'torque'
  | 'force'
  | 'frequency'
  | 'rotation'
  | 'acceleration'
  | 'ratio'

/** A unit by its symbol: base value = value × factor + offset, the base being the SI unit of the dimension. */
export interface Unit {
  readonly symbol: string
  readonly name: string
  readonly dimension: Dimension
  readonly factor: number
  readonly offset: number
}

const row = (symbol: string, name: string, dimension: Dimension, factor: number, offset = 0): Unit => ({
  symbol,
  name,
  dimension,
  factor,
  offset,
})

/** Factors from BIPM's SI brochure and NIST SP 811; 1 ft, 1 NM, 1 lb and 1 inHg by definition. */
export const units: readonly Unit[] = [
  row('m', 'metre', 'length', 1),
  row('mm', 'millimetre', 'length', 0.001),
  row('km', 'kilometre', 'length', 1000),
  row('ft', 'foot', 'length', 0.3048),
  row('NM', 'nautical mile', 'length', 1852),
  row('mi', 'mile', 'length', 1609.344),
  row('m/s', 'metre per second', 'speed', 1),
  row('km/h', 'kilometre per hour', 'speed', 1 / 3.6),
  row('kt', 'knot', 'speed', 1852 / 3600),
  row('mph', 'mile per hour', 'speed', 0.44704),
  row('ft/min', 'foot per minute', 'speed', 0.3048 / 60),
  row('deg', 'degree', 'angle', Math.PI / 180),
  row('rad', 'radian', 'angle', 1),
  row('deg/s', 'degree per second', 'turning', Math.PI / 180),
  row('rad/s', 'radian per second', 'turning', 1),
  row('s', 'second', 'time', 1),
  row('min', 'minute', 'time', 60),
  row('h', 'hour', 'time', 3600),
  row('K', 'kelvin', 'temperature', 1),
  row('°C', 'degree Celsius', 'temperature', 1, 273.15),
  row('°F', 'degree Fahrenheit', 'temperature', 5 / 9, 459.67 * (5 / 9)),
  row('Pa', 'pascal', 'pressure', 1),
  row('hPa', 'hectopascal', 'pressure', 100),
  row('kPa', 'kilopascal', 'pressure', 1000),
  row('bar', 'bar', 'pressure', 100000),
  row('psi', 'pound per square inch', 'pressure', 6894.757293168),
  row('inHg', 'inch of mercury', 'pressure', 3386.389),
  row('kg', 'kilogram', 'mass', 1),
  row('lb', 'pound', 'mass', 0.45359237),
  row('kg/h', 'kilogram per hour', 'mass flow', 1 / 3600),
  row('lb/h', 'pound per hour', 'mass flow', 0.45359237 / 3600),
  row('l', 'litre', 'volume', 0.001),
  row('gal', 'US gallon', 'volume', 0.003785411784),
  row('V', 'volt', 'voltage', 1),
  row('A', 'ampere', 'current', 1),
  row('mA', 'milliampere', 'current', 0.001),
  row('Ah', 'ampere hour', 'charge', 3600),
  row('W', 'watt', 'power', 1),
  row('kW', 'kilowatt', 'power', 1000),
  row('hp', 'horsepower', 'power', 745.6998715822702),
  row('N·m', 'newton metre', 'torque', 1),
  row('ft·lb', 'foot pound', 'torque', 1.3558179483314),
  row('N', 'newton', 'force', 1),
  row('Hz', 'hertz', 'frequency', 1),
  row('kHz', 'kilohertz', 'frequency', 1000),
  row('MHz', 'megahertz', 'frequency', 1e6),
  row('rpm', 'revolution per minute', 'rotation', 1),
  row('m/s²', 'metre per second squared', 'acceleration', 1),
  row('g', 'standard gravity', 'acceleration', 9.80665),
  row('ratio', 'ratio, 0 to 1', 'ratio', 1),
  row('%', 'percent', 'ratio', 0.01),
]

/** The word that is counted, in the plural: “revolutions per minute”, “feet per minute”, “degrees Celsius”. */
const plural = (name: string): string => {
  const irregular: Readonly<Record<string, string>> = {
    foot: 'feet',
    inch: 'inches',
    horsepower: 'horsepower',
  }
  const words = name.split(' ')
  // “US gallon”, “nautical mile”, “newton metre”: it is the last word before “per”, “of”, “squared” or a name.
  const end = words.findIndex((w, i) => i > 0 && /^(per|of|squared|[CF][a-z]+)$/.test(w))
  const at = (end < 0 ? words.length : end) - 1
  const word = words[at] as string
  words[at] = irregular[word] ?? (word.endsWith('s') || word === 'hertz' ? word : `${word}s`)
  return words.join(' ')
}

/** Other ways in which simulators and people write units. */
const alsoWritten: Readonly<Record<string, string>> = {
  degrees: 'deg',
  '°': 'deg',
  celsius: '°C',
  fahrenheit: '°F',
  'inches of mercury': 'inHg',
  knots: 'kt',
  kts: 'kt',
  lbs: 'lb',
  gallons: 'gal',
  gallon: 'gal',
  volts: 'V',
  amps: 'A',
  amp: 'A',
  'percent over 100': 'ratio',
  sec: 's',
  seconds: 's',
  fpm: 'ft/min',
  nmi: 'NM',
}

const bySymbol = new Map(units.map((u) => [u.symbol, u]))
const byName = new Map<string, Unit>()
for (const u of units) for (const n of [u.name, plural(u.name)]) byName.set(n.toLowerCase(), u)
for (const [name, symbol] of Object.entries(alsoWritten)) {
  const u = bySymbol.get(symbol)
  if (u && !byName.has(name)) byName.set(name, u)
}

/** A unit by symbol (`kt`) or by name, one or many (`knot`, `feet`, `degrees Celsius`); undefined for one that is not known. */
export const unitNamed = (text: string): Unit | undefined => {
  const bare = text.trim()
  return bySymbol.get(bare) ?? byName.get(bare.toLowerCase())
}

/** `to = from × scale + offset`; both units must share their dimension. */
export const conversion = (from: Unit, to: Unit): { scale: number; offset: number } => ({
  scale: from.factor / to.factor,
  offset: (from.offset - to.offset) / to.factor,
})

/** A value in another unit of the same dimension. */
export const convert = (value: number, from: Unit, to: Unit): number => {
  const { scale, offset } = conversion(from, to)
  return value * scale + offset
}
