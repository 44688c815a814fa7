<script setup lang="ts">
import '~/words/later'
import type { Edit } from '~~/core/imaging/fit'
import type { Turn } from '~~/core/imaging/upright'
import type { Verdict } from '~~/core/finding/finding'
import type { ImageKind } from '~~/core/notice/schema'
import type { ImageRule } from '~~/core/notice/file-rules'
import type { Fitted, Measured } from '~/composables/picture'

const { editWords } = useWords().pictures

/** A chosen picture before it is sent: what was measured on it, and the help to bring it within the rules. */
const props = defineProps<
  {
    source: File,
    worker: ReturnType<typeof usePictureWorker>,
    kind: ImageKind,
    rule: ImageRule,
    sending: boolean,
    /** Why it is not sent yet. */
    waiting: string,
  }
>()
const emit = defineEmits<{ send: [picture: Blob, edits: Edit[], verdicts: Record<string, Verdict>], drop: [], refused: [words: string] }>()
const { measure, fit } = props.worker
const { addressOf } = useAddresses()

interface Shown {
  url: string
  blob: Blob
  measured: Measured | null
  edits: Edit[]
}
const before = shallowRef<Shown | null>(null)
const after = shallowRef<Shown | null>(null)
const fitting = ref(false)
const trouble = ref('')
const pointed = ref<string | null>(null)
const turn = ref<Turn>(0)

const current = computed(() => after.value ?? before.value)
const pair = computed(() => [before.value, after.value].filter(shown => shown !== null))
const open = (shown: Shown | null) => shown?.measured?.findings.filter(f => f.verdict !== 'pass') ?? []
const settled = (shown: Shown | null) => (shown?.measured?.findings.length ?? 0) - open(shown).length
const looking = computed(() => current.value !== null && current.value.measured?.last !== true)
const title = computed(() => props.rule.title.toLowerCase())
const verdict = computed(() => {
  if (fitting.value || !current.value?.measured) return say('coach.lookingAtThePicture')
  const failed = open(current.value).filter(f => f.verdict === 'fail').length
  if (looking.value) {
    return say('coach.rulesNotKeptSoFar', { failed, milliseconds: ((current.value.measured.milliseconds ?? 0) / 1000).toFixed(2) })
  }
  if (failed > 0) return say('coach.rulesNotKept', { failed, hasAfter: String(Boolean(after.value)) })
  return open(current.value).length > 0 ? say('coach.inOrderButForWhatA') : say('coach.everythingIsInOrder')
})

onMounted(async () => {
  const shown: Shown = { url: addressOf(props.source), blob: props.source, edits: [], measured: null }
  before.value = shown
  try {
    const measured = await measure(props.source, props.kind, props.rule, (early) => {
      before.value = { ...shown, measured: early }
    })
    before.value = { ...shown, measured }
    turn.value = measured.turn
    // Nothing to ask: it is sent as it is.
    if (measured.findings.every(f => f.verdict === 'pass')) send()
  } catch (error) {
    if (error instanceof FileRefusal && error.sure) emit('refused', error.message)
    else emit('send', props.source, [], {})
  }
})

/** What was made, by the turn that was asked for: taken back and asked for again, it is there at once. */
const made = new Map<Turn | undefined, Shown>()

async function makeItFit(by?: Turn) {
  fitting.value = true
  trouble.value = ''
  try {
    const shown = made.get(by) ?? await shownOf(fit(props.kind, props.rule, by))
    made.set(by, shown)
    after.value = shown
  } catch (error) {
    trouble.value = error instanceof FileRefusal ? error.message : say('coach.thePictureCouldNotBeChanged')
  } finally {
    fitting.value = false
  }
}
async function shownOf(fitting: Promise<Fitted>): Promise<Shown> {
  const { made: blob, edits, measured } = await fitting
  return { url: addressOf(blob), blob, edits, measured }
}
function turnBy(degrees: number) {
  turn.value = ((turn.value + degrees) % 360) as Turn
  void makeItFit(turn.value)
}
function back() {
  after.value = null
  turn.value = before.value?.measured?.turn ?? 0
}
function send() {
  const shown = current.value
  if (shown) emit('send', shown.blob, shown.edits, Object.fromEntries((shown.measured?.findings ?? []).map(f => [f.code, f.verdict])))
}
</script>

<template>
  <div class="coach">
    <div class="pair">
      <figure
        v-for="shown in pair"
        :key="shown.url"
      >
        <PictureMarked
          :src="shown.url"
          :alt="say('coach.theMadeToFit', { title, hasShown: String(shown === after) })"
          :class="kind"
          :marks="shown.measured?.marks ?? []"
          :pointed="shown === current ? pointed : null"
        />
        <figcaption class="soft small">
          {{ say('coach.madeToFit', { hasShown: String(shown === after), size: (shown.blob.size / 1024).toFixed(0) }) }} <template v-if="shown.measured">
            {{ say('coach.px', { width: shown.measured.facts.width, height: shown.measured.facts.height }) }}
          </template>
        </figcaption>
      </figure>
    </div>
    <p
      role="status"
      class="verdict"
    >
      <b>{{ verdict }}</b> <span
        v-if="current?.measured && !looking && !fitting && settled(current) > 0"
        class="soft"
      >{{ say('coach.checksPassedInS', { checks: settled(current), milliseconds: ((current.measured?.milliseconds ?? 0) / 1000).toFixed(1) }) }}</span>
    </p>
    <HouseAlert
      :text="trouble"
      kind="refusal"
    />
    <HouseAlert
      :text="waiting"
      kind="attention"
    />
    <div class="acts">
      <HouseButton
        v-if="!after"
        primary
        :busy="fitting"
        :disabled="looking"
        @click="makeItFit()"
      >
        {{ say('coach.makeItFit') }}
      </HouseButton>
      <HouseButton
        :primary="after !== null"
        :busy="sending"
        :disabled="looking || fitting"
        @click="send"
      >
        {{ after ? say('coach.sendTheNewOne') : say('coach.sendAsItIs') }}
      </HouseButton>
      <HouseButton
        v-if="after"
        :disabled="sending"
        @click="back"
      >
        {{ say('coach.undo') }}
      </HouseButton>
      <HouseButton
        :disabled="looking || fitting"
        @click="turnBy(270)"
      >
        {{ say('coach.turnLeft') }}
      </HouseButton>
      <HouseButton
        :disabled="looking || fitting"
        @click="turnBy(90)"
      >
        {{ say('coach.turnRight') }}
      </HouseButton>
      <HouseButton
        v-if="!after"
        :disabled="sending"
        @click="emit('drop')"
      >
        {{ say('coach.chooseAnother') }}
      </HouseButton>
    </div>
    <ul
      v-if="after && after.edits.length > 0"
      class="soft small edits"
    >
      <li
        v-for="edit in after.edits"
        :key="edit.kind"
      >
        {{ editWords(edit) }}
      </li>
    </ul>
    <div class="findings">
      <HouseFindingRows
        v-model:pointed="pointed"
        :findings="open(current)"
        :places="current?.measured?.marks.map(mark => mark.code)"
      />
    </div>
  </div>
</template>

<style scoped>
.coach { border: 1px solid var(--line-strong); background: var(--paper); padding: 12px; margin: 8px 0; max-width: 640px; }
.pair { display: flex; gap: 12px; align-items: flex-end; }
.pair figure { flex: 0 1 auto; min-width: 0; }
figure { margin: 0; }
.photograph :deep(img) { max-height: 260px; }
.signature :deep(img), .thumb :deep(img) { max-height: 130px; }
.verdict { margin: 10px 0 4px; }
.edits { margin: 4px 0; padding-left: 18px; }
.findings { max-width: 460px; }
.acts { display: flex; flex-wrap: wrap; gap: 8px; margin-top: 12px; }
@media (max-width: 900px) {
  .acts { display: grid; grid-template-columns: repeat(2, minmax(0, 1fr)); }
  .acts .button { height: 44px; padding: 0 8px; }
  .acts .button.is-primary:nth-child(2) { order: -1; }
  .photograph :deep(img) { max-height: 190px; }
}
</style>
