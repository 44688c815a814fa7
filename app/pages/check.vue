<script setup lang="ts">
import { prepareZXingModule, readBarcodes } from 'zxing-wasm/reader'
import wasmUrl from 'zxing-wasm/reader/zxing_reader.wasm?url'
import { verifyCode, type CodeVerdict, type PublicKey } from '~~/core/admit-card/code'
import { spellBirthday, spellDate } from '~~/core/calendar/zone'
import { codeRefusalWords } from '~~/core/words/en/work'
import type { CardStanding } from '~~/shared/centres'

/** Checks a card without a network: once this page has been opened, keys and reader are on the telephone. */
definePageMeta({ layout: 'plain' })
useHead({ title: 'Check an admit card' })
const text = ref('')
const verdict = shallowRef<CodeVerdict | null>(null)
const keys = shallowRef<PublicKey[]>([])
const trouble = ref('')
const busy = ref(false)
const input = ref<HTMLInputElement | null>(null)
const store = 'lucid-card-keys'

function takeKeys(list: { id: string, key: string }[]) {
  keys.value = list.map(k => ({ id: k.id, key: Uint8Array.from(atob(k.key), c => c.charCodeAt(0)) }))
}
onMounted(async () => {
  // The reader's program is fetched now, so that a picture can be read when there is no network.
  prepareZXingModule({ overrides: { locateFile: () => wasmUrl }, fireImmediately: true })
  const kept = localStorage.getItem(store)
  if (kept) takeKeys(JSON.parse(kept) as { id: string, key: string }[])
  try {
    const list = await callApi<{ id: string, key: string }[]>('/api/check/keys')
    takeKeys(list)
    localStorage.setItem(store, JSON.stringify(list))
  } catch {
    if (keys.value.length === 0) trouble.value = 'The Board\'s keys could not be loaded and none are kept here yet. Open this page once with a network.'
  }
})
/** What the office says of the card besides, where it can be reached; null while it is asked. */
const standing = shallowRef<CardStanding | 'unknown' | null>(null)
async function check() {
  trouble.value = ''
  standing.value = null
  verdict.value = text.value.trim() ? verifyCode(text.value, keys.value) : null
  if (!verdict.value?.ok) return
  const asked = text.value
  const told = await callApi<CardStanding>('/api/check/card', { method: 'POST', body: { code: asked } }).catch(() => 'unknown' as const)
  if (asked === text.value) standing.value = told
}
const state = computed(() => {
  if (standing.value === null) return { kind: '', words: 'The office is asked whether this card is in force.' }
  if (standing.value === 'unknown') return { kind: 'is-attention', words: 'Without a network this page cannot know whether a newer card has made this one void. Compare the name and the roll number with the list of the room.' }
  switch (standing.value.state) {
    case 'in force': return { kind: '', words: 'The card is in force.' }
    case 'withheld': return { kind: 'is-refusal', words: 'The office withholds this card: it does not hold until the office lets it go. Do not let it pass.' }
    default: return { kind: 'is-refusal', words: 'This card is void: a newer version, or none, holds in its place. Do not let it pass.' }
  }
})
const isVoid = computed(() => state.value.kind === 'is-refusal')
async function readPicture(event: Event) {
  const target = event.target as HTMLInputElement
  const picked = target.files?.[0]
  target.value = ''
  if (!picked) return
  busy.value = true
  trouble.value = ''
  verdict.value = null
  try {
    const [found] = await readBarcodes(picked, { formats: ['QRCode'], tryHarder: true, maxNumberOfSymbols: 1 })
    if (found?.text) {
      text.value = found.text
      check()
    } else trouble.value = 'No code was found in the picture. Take it from nearer, flat and sharp, with the whole square in it; or type the text below it.'
  } catch {
    trouble.value = 'The file could not be read as a picture. Choose a JPEG or PNG.'
  } finally {
    busy.value = false
  }
}
const rows = computed(() => verdict.value?.ok ? [
  ['Name', verdict.value.content.name], ['Roll number', verdict.value.content.roll], ['Application', verdict.value.content.application],
  ['Born', spellBirthday(verdict.value.content.born)], ['Identity proof', verdict.value.content.identity], ['Test centre', verdict.value.content.venue],
  ['Session', `${verdict.value.content.session}, ${spellDate(verdict.value.content.date)}`], ['Room and seat', verdict.value.content.seat], ['Card version', String(verdict.value.content.version)],
] : [])
</script>

<template>
  <div>
    <h1>Is this admit card genuine?</h1>
    <p class="soft lead">
      Choose a picture of the code, or type its text. The check runs on this device and needs no network once the page is open.
    </p>
    <input
      ref="input"
      type="file"
      accept="image/*"
      class="visually-hidden"
      aria-label="Picture of the code"
      @change="readPicture"
    >
    <ElButton
      type="primary"
      size="large"
      :loading="busy"
      @click="input?.click()"
    >
      Choose a picture of the code
    </ElButton>
    <label for="code">or its text, beginning with LR1:</label>
    <ElInput
      id="code"
      v-model="text"
      type="textarea"
      :autosize="{ minRows: 3, maxRows: 8 }"
      spellcheck="false"
      autocomplete="off"
      @input="verdict = null"
    />
    <ElButton
      :disabled="!text.trim() || keys.length === 0"
      @click="check"
    >
      Check the text
    </ElButton>
    <HouseAlert
      :text="trouble"
      kind="attention"
    />
    <div
      v-if="verdict"
      role="status"
      class="verdict"
      :class="verdict.ok && !isVoid ? 'good' : 'bad'"
    >
      <template v-if="verdict.ok">
        <h2 :class="isVoid ? 'refusal' : 'settled'">
          {{ isVoid ? '✕ Signed by the Board, and void' : '✓ Genuine: signed by the Board' }}
        </h2>
        <p
          class="note"
          :class="state.kind"
        >
          {{ state.words }}
        </p>
        <p>Compare the name and the picture on the card with the person and the original proof.</p>
        <table class="plain-table">
          <tbody>
            <tr
              v-for="[label, value] in rows"
              :key="label"
            >
              <td class="soft">
                {{ label }}
              </td><td><b>{{ value }}</b></td>
            </tr>
          </tbody>
        </table>
      </template>
      <template v-else>
        <h2 class="refusal">
          ✕ Not genuine
        </h2>
        <p>{{ codeRefusalWords[verdict.why] }}</p>
      </template>
    </div>
  </div>
</template>

<style scoped>
.lead { margin: 8px 0 20px; }
label { display: block; margin: 20px 0 6px; font-weight: 600; }
.el-button { margin: 8px 0; }
.note { margin-top: 12px; }
.verdict { margin-top: 20px; border-top: 3px solid; padding-top: 14px; }
.good { border-color: var(--settled); }
.bad { border-color: var(--refusal); }
td:first-child { width: 140px; }
</style>
