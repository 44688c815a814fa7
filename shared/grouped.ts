/** The members of a list by a key of each, keys in the order in which they come first. */
export function grouped<Key, Member>(list: Iterable<Member>, keyOf: (member: Member) => Key): Map<Key, Member[]> {
  const groups = new Map<Key, Member[]>()
  for (const member of list) {
    const key = keyOf(member)
    const group = groups.get(key)
    if (group) group.push(member)
    else groups.set(key, [member])
  }
  return groups
}
