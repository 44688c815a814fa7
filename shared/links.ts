/** A text in pieces: words, and web addresses that can be followed. Signs that end a sentence are no part of an address. */
export function linkPieces(text: string): { text: string, isLink: boolean }[] {
  return text.split(/(https:\/\/[^\s<>"]*[^\s<>".,;:!?)\]])/u).map((piece, i) => ({ text: piece, isLink: i % 2 === 1 })).filter(piece =>
    piece.text
  )
}
