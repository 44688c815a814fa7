/**
 * Pictures that are read before they are asked for. They lie in this window's memory and nowhere else, since a browser may keep nothing of
 * photographs and papers; those of the case before the present one are let go.
 */
const held = new Map<string, string>()
const generations: string[][] = []

/** Where a picture is shown from: out of memory where it was read ahead. */
export const pictureSource = (address: string): string => held.get(address) ?? address

/** Reads the pictures of one case into memory. What does not come is read when it is shown. */
export async function holdPictures(addresses: readonly string[]): Promise<void> {
  generations.push([...addresses])
  if (generations.length > 2) drop(generations.shift() ?? [])
  await Promise.all(addresses.map(async (address) => {
    const answer = await fetch(address).catch(() => null)
    if (answer?.ok) held.set(address, URL.createObjectURL(await answer.blob()))
  }))
}

/** Lets all go: whoever sits here next may not be allowed to see them. */
export function dropPictures(): void {
  drop([...held.keys()])
  generations.length = 0
}

function drop(addresses: readonly string[]): void {
  for (const address of addresses) {
    const source = held.get(address)
    if (source) URL.revokeObjectURL(source)
    held.delete(address)
  }
}
