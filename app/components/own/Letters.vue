<script setup lang="ts">
import { spellInstantShort, type Zone } from '~~/core/calendar/zone'
import type { OwnLetter } from '~~/shared/candidates'

/** Letters to one's own account. Opening one tells the office that it was read. */
const { letters } = defineProps<{ letters: OwnLetter[], zone: Zone, contacts: { address: string }[] }>()
const session = useSessionStore()
const opened = ref(new Set<string>())
const isNew = (one: OwnLetter) => one.isUnread && !opened.value.has(one.id)
function open(one: OwnLetter) {
  if (!isNew(one) || session.looksAs !== null) return
  opened.value = new Set([...opened.value, one.id])
  void callApi(`/api/own/letters/${one.id}/seen`, { method: 'PUT' }).catch(() => undefined)
}
</script>

<template>
  <p
    v-if="contacts.length > 0"
    class="soft small"
  >
    {{ say('own.reachedAt', { addresses: contacts.map(c => c.address).join(', ') }) }}
  </p>
  <p
    v-if="letters.length === 0"
    class="soft"
  >
    {{ say('own.noLetters') }}
  </p>
  <details
    v-for="letter in letters"
    :key="letter.id"
    @toggle="open(letter)"
  >
    <summary><b v-if="isNew(letter)">{{ say('own.newLetter') }}</b> {{ letter.subject }} <span class="soft small">{{ spellInstantShort(letter.at, zone) }}, {{ say('own.letterStates', { state: letter.state }) }}</span></summary>
    <p>{{ letter.body }}</p>
  </details>
</template>

<style scoped>
summary { cursor: pointer; padding: 6px 0; }
details p { white-space: pre-line; }
</style>
