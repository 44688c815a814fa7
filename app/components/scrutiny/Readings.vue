<script setup lang="ts">
import type { Dossier } from '~~/shared/applications'
import type { PrintHint } from '~~/core/documents/print'
import type { PrintView, ReadingInput } from '~~/shared/scrutiny'

/** Answers held against the papers by eye, line by line: what was ticked counts for this version of the file and this answer. */
const props = defineProps<
  {
    dossier: Dossier,
    papers: { id: string, title: string, image: string, pages: { width: number, height: number }[] }[],
    questions: string[],
    may: boolean,
  }
>()
const emit = defineEmits<{ changed: [readings: Dossier['readings']] }>()
const session = useSessionStore()
const spelling = useSpelling()
const { readingWords } = useWords().scrutiny
const results = ['agrees', 'differs', 'cannot be read'] as const
const shapes: Record<typeof results[number], string> = { 'agrees': '✓', 'differs': '✕', 'cannot be read': '?' }
const found = (question: string, image: string) => props.dossier.readings.find(one => one.question === question && one.image === image)
/** What the machine has read on each paper, by the file's id; papers are read one after the other. */
const print = shallowRef<Record<string, PrintView>>({})
const hintOf = (question: string, image: string): PrintHint | undefined => print.value[image]?.hints.find(one => one.question === question)
let isGone = false
async function readPrint(): Promise<void> {
  for (const { image } of props.papers) {
    if (isGone) return
    if (print.value[image]) continue
    try {
      print.value = { ...print.value, [image]: await callApi<PrintView>(`/api/images/${image}/print`) }
    } catch {
      // A hint that does not come is none.
    }
  }
}
watch(() => props.papers.map(paper => paper.image).join(), () => {
  void readPrint()
}, { immediate: true })
onScopeDispose(() => {
  isGone = true
})
async function tick(question: string, image: string, result: ReadingInput['result']) {
  const good = await attempt(() =>
    callApi(`/api/applications/${props.dossier.id}/readings`, { method: 'POST', body: { question, image, result } })
  )
  if (!good) return
  const others = props.dossier.readings.filter(one => one.question !== question || one.image !== image)
  emit('changed', [...others, { question, image, result, answer: '', by: session.principal?.name ?? '', at: new Date().toISOString() }])
}
</script>

<template>
  <section v-if="papers.length > 0">
    <h2 class="section-title">
      {{ say('scrutiny.heldAgainst') }}
    </h2>
    <p class="soft small">
      {{ say('scrutiny.readingHelp') }}
    </p>
    <table class="plain-table">
      <thead>
        <tr>
          <th>{{ say('scrutiny.line') }}</th><th
            v-for="paper in papers"
            :key="paper.id"
          >
            {{ paper.title }}
          </th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="question in questions"
          :key="question"
        >
          <td>{{ spelling.item(question) }} <b>{{ spelling.answer(question, dossier.answers[question]) }}</b></td>
          <td
            v-for="paper in papers"
            :key="paper.id"
            class="nowrap"
          >
            <button
              v-for="result in may ? results : []"
              :key="result"
              type="button"
              class="tick"
              :aria-pressed="found(question, paper.image)?.result === result"
              :title="readingWords[result]"
              :aria-label="`${spelling.item(question)}, ${paper.title}: ${readingWords[result]}`"
              @click="tick(question, paper.image, result)"
            >
              {{ shapes[result] }}
            </button>
            <ScrutinyHint
              v-if="hintOf(question, paper.image)"
              :hint="hintOf(question, paper.image) as PrintHint"
              :image="paper.image"
              :pages="paper.pages"
            />
            <span
              v-if="found(question, paper.image)"
              class="soft small"
            >{{ say('scrutiny.tickedBy', { result: readingWords[found(question, paper.image)?.result ?? 'agrees'], by: found(question, paper.image)?.by ?? '' }) }}</span>
          </td>
        </tr>
      </tbody>
    </table>
  </section>
</template>

<style scoped>
.tick {
  font: inherit; width: 30px; height: 28px; border: 1px solid var(--line-strong); border-radius: var(--radius); background: var(--sheet);
  color: var(--ink-soft); cursor: pointer; margin-right: 4px;
}
.tick[aria-pressed='true'] { background: var(--accent); color: var(--on-accent); border-color: var(--accent); }
</style>
