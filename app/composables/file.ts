/** Reads a chosen file as JSON. @throws SyntaxError when it is none. */
export async function readJsonFile(event: Event): Promise<{ name: string, json: unknown } | null> {
  const target = event.target as HTMLInputElement
  const file = target.files?.[0]
  target.value = ''
  return file ? { name: file.name, json: JSON.parse(await file.text()) as unknown } : null
}

/** Hands a text to the browser as a file to be kept. */
export function saveFile(name: string, text: string, type: string): void {
  const link = document.createElement('a')
  link.href = URL.createObjectURL(new Blob([text], { type }))
  link.download = name
  link.click()
  URL.revokeObjectURL(link.href)
}
