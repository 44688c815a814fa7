<script setup lang="ts">
import { prepareZXingModule, readBarcodes } from 'zxing-wasm/reader'
import wasmUrl from 'zxing-wasm/reader/zxing_reader.wasm?url'
import { verifyCode, type CodeVerdict, type PublicKey } from '~~/core/admit-card/code'
import { spellBirthday, spellDate } from '~~/core/calendar/zone'
import type { CardStanding } from '~~/shared/centres'

const { codeRefusalWords } = useWords().work

/** Checks a card without a network: once this page has been opened, keys and reader are on the telephone. */
definePageMeta({ layout: 'plain' })
useHead({ title: say('check.checkAnAdmitCard') })
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
    if (keys.value.length === 0) trouble.value = say('check.theBoardSKeysCouldNot')
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
  if (standing.value === null) return { kind: '', words: say('check.theOfficeIsAskedWhetherThis') }
  if (standing.value === 'unknown') return { kind: 'is-attention', words: say('check.withoutANetworkThisPageCannot') }
  switch (standing.value.state) {
    case 'in force':
      return { kind: '', words: say('check.theCardIsInForce') }
    case 'withheld':
      return { kind: 'is-refusal', words: say('check.theOfficeWithholdsThisCardIt') }
    default:
      return { kind: 'is-refusal', words: say('check.thisCardIsVoidANewer') }
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
    } else trouble.value = say('check.noCodeWasFoundInThe')
  } catch {
    trouble.value = say('check.theFileCouldNotBeRead')
  } finally {
    busy.value = false
  }
}
const rows = computed(() =>
  verdict.value?.ok
    ? [
      [say('check.name'), verdict.value.content.name],
      [say('check.rollNumber'), verdict.value.content.roll],
      [say('check.application'), verdict.value.content.application],
      [say('check.born'), spellBirthday(verdict.value.content.born)],
      [say('check.identityProof'), verdict.value.content.identity],
      [say('check.testCentre'), verdict.value.content.venue],
      [say('check.session'), `${verdict.value.content.session}, ${spellDate(verdict.value.content.date)}`],
      [say('check.roomAndSeat'), verdict.value.content.seat],
      [say('check.cardVersion'), String(verdict.value.content.version)],
    ]
    : []
)
</script>

<template>
  <div>
    <h1>{{ say('check.isThisAdmitCardGenuine') }}</h1>
    <p class="soft lead">
      {{ say('check.chooseAPictureOfTheCode') }}
    </p>
    <input
      ref="input"
      type="file"
      accept="image/*"
      class="visually-hidden"
      tabindex="-1"
      :aria-label="say('check.pictureOfTheCode')"
      @change="readPicture"
    >
    <ElButton
      type="primary"
      size="large"
      :loading="busy"
      @click="input?.click()"
    >
      {{ say('check.choosePicture') }}
    </ElButton>
    <label for="code">{{ say('check.orItsTextBeginningWithLr1') }}</label>
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
      {{ say('check.checkTheText') }}
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
          {{ isVoid ? say('check.signedByTheBoardAndVoid') : say('check.genuineSignedByTheBoard') }}
        </h2>
        <p
          class="note"
          :class="state.kind"
        >
          {{ state.words }}
        </p>
        <p>{{ say('check.compareTheNameAndThePicture') }}</p>
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
          {{ say('check.notGenuine') }}
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
