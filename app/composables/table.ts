/** One column of a table. Its cells are drawn by the slot of its key; without one, `text` is what they say. */
export interface Column<Row, Key extends string = string> {
  key: Key
  /** Left out where the cells say themselves what they are. */
  title?: string
  /** The title is read aloud only: for columns of buttons. */
  isQuiet?: boolean
  /** Numbers stand on the right, figure below figure; lines do not break. */
  kind?: 'number' | 'line'
  text?: (row: Row) => string | number
  /** Its head can be pressed to sort by it. */
  sort?: string
  /** Classes of a cell. */
  look?: string | ((row: Row) => string)
}
