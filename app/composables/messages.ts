export type MessageKind = 'error' | 'info' | 'success'
export interface Message {
  id: number
  text: string
  kind: MessageKind
}

/** What is said at the head of the page for a while, the newest last. */
export const messages = shallowRef<Message[]>([])
let last = 0

/** Says something that nobody has to answer. What went wrong stays longer, and each can be closed. */
export function tell(text: string, kind: MessageKind = 'info', ms = kind === 'error' ? 9000 : 6000): void {
  // The same again, while it is still read, is one message.
  messages.value = messages.value.filter(message => message.text !== text)
  const id = ++last
  messages.value = [...messages.value, { id, text, kind }]
  setTimeout(() => untell(id), ms)
}

export function untell(id: number): void {
  messages.value = messages.value.filter(message => message.id !== id)
}
