<script setup lang="ts">
import type { QuestionPage, WaitingQuestion } from '~~/shared/questions'

/** What candidates ask, the oldest first: who has it, by when, and the answer. */
useHead({ title: titled(say('questions.questions')) })
const cycle = useCycleStore()
const session = useSessionStore()
const spelling = useSpelling()
const now = useNow()
const which = ref<'all' | 'mine' | 'free'>('all')
const ways = [{ id: 'all', title: say('questions.all') }, { id: 'mine', title: say('questions.mine') }, {
  id: 'free',
  title: say('questions.free'),
}] as const
const rows = shallowRef<WaitingQuestion[]>([])
const next = ref<string | null>(null)
const isRead = ref(false)
const chosen = ref<string | null>(null)
const text = ref('')
const one = computed(() => rows.value.find(row => row.id === chosen.value) ?? null)
const mayAnswer = computed(() => session.may('questions.answer'))
const { busy, refusal, send } = useSubmission()

async function load(after?: string) {
  const page = await callApi<QuestionPage>(cycle.path('questions'), { query: { which: which.value, after } })
  rows.value = after ? [...rows.value, ...page.rows] : page.rows
  next.value = page.next
  isRead.value = true
  if (!one.value) chosen.value = rows.value[0]?.id ?? null
}
const { failure, reload } = useLoaded(() => load())
watch(which, () => {
  void reload()
})
watch(chosen, () => {
  text.value = ''
  refusal.value = ''
})
const isOver = (row: WaitingQuestion) => row.dueAt <= now.value.toISOString()
const partTitle = (about: string) => cycle.notice?.sections.find(section => section.id === about)?.title ?? ''

const hold = (row: WaitingQuestion, method: 'PUT' | 'DELETE') =>
  send(async () => {
    await callApi(`/api/questions/${row.id}/hand`, { method })
    await reload()
  })
const answer = () =>
  send(async () => {
    if (!one.value || text.value.trim().length < 2) return
    const at = rows.value.findIndex(row => row.id === chosen.value)
    const following = rows.value[at + 1]?.id ?? rows.value[at - 1]?.id ?? null
    await callApi(`/api/questions/${one.value.id}/answer`, { method: 'POST', body: { text: text.value.trim() } })
    text.value = ''
    chosen.value = following
    await reload()
  })
useKeys((event) => {
  const by = event.key === 'j' ? 1 : event.key === 'k' ? -1 : 0
  if (by === 0) return
  const at = rows.value.findIndex(row => row.id === chosen.value)
  chosen.value = rows.value[Math.min(rows.value.length - 1, Math.max(0, at + by))]?.id ?? null
})
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>{{ isRead ? say('questions.waiting', { count: rows.length, hasMore: String(next !== null) }) : say('questions.questions') }}</h1>
    </div>
    <p class="soft">
      {{ say('questions.help') }}
    </p>
    <HouseAlert
      :text="failure || refusal"
      kind="refusal"
    />
    <div class="tools">
      <HouseSegments
        v-model="which"
        :views="ways"
        :label="say('questions.which')"
      />
      <span class="soft small keys"><kbd>j</kbd> <kbd>k</kbd> {{ say('questions.keys') }}</span>
    </div>
    <div class="two">
      <div>
        <ul v-if="rows.length > 0">
          <li
            v-for="row in rows"
            :key="row.id"
          >
            <button
              type="button"
              :aria-current="chosen === row.id ? 'true' : undefined"
              @click="chosen = row.id"
            >
              <b>{{ row.name }}</b>
              <span
                class="small"
                :class="isOver(row) ? 'attention' : 'soft'"
              >{{ say(isOver(row) ? 'questions.overdue' : 'questions.by', { at: spelling.instant(row.dueAt) }) }}</span>
              <span class="soft small said">{{ row.text }}</span>
              <span
                v-if="row.holder"
                class="small soft"
              >{{ row.isMine ? say('questions.youHaveIt') : say('questions.hasIt', { holder: row.holder }) }}</span>
            </button>
          </li>
        </ul>
        <ElButton
          v-if="next"
          @click="attempt(() => load(next ?? undefined))"
        >
          {{ say('band.more') }}
        </ElButton>
      </div>
      <div v-if="one">
        <p>
          <NuxtLink :to="`/intake/${one.applicationId}`">
            {{ say('questions.toApplication') }}
          </NuxtLink> <span class="soft small">{{ [one.number, one.about && say('questions.about', { about: partTitle(one.about) })].filter(Boolean).join(' · ') }}</span>
        </p>
        <p class="question">
          {{ one.text }}
        </p>
        <p class="soft small">
          {{ say('questions.askedOn', { by: one.by, at: spelling.instant(one.at) }) }}
        </p>
        <template v-if="mayAnswer">
          <label
            for="answer"
            class="small"
          >{{ say('questions.answer') }}</label>
          <ElInput
            id="answer"
            v-model="text"
            type="textarea"
            :autosize="{ minRows: 5, maxRows: 14 }"
            maxlength="4000"
            @keydown.ctrl.enter="answer"
          />
          <p class="acts">
            <ElButton
              type="primary"
              :loading="busy"
              :disabled="text.trim().length < 2"
              @click="answer"
            >
              {{ say('questions.send') }}
            </ElButton>
            <ElButton
              v-if="one.isMine || !one.holder"
              :loading="busy"
              @click="hold(one, one.isMine ? 'DELETE' : 'PUT')"
            >
              {{ one.isMine ? say('questions.letGo') : say('questions.take') }}
            </ElButton>
          </p>
        </template>
      </div>
    </div>
  </div>
</template>

<style scoped>
.tools { display: flex; flex-wrap: wrap; gap: 10px 20px; align-items: center; margin: 12px 0 14px; }
.two { display: grid; grid-template-columns: minmax(0, 5fr) minmax(0, 6fr); gap: 32px; align-items: start; }
ul { list-style: none; padding: 0; margin: 0 0 12px; border-top: 1px solid var(--line); max-height: 640px; overflow-y: auto; }
li button {
  display: grid; grid-template-columns: minmax(0, 1fr) auto; gap: 0 10px; width: 100%; text-align: left; font: inherit; color: inherit;
  background: none; border: 0; border-bottom: 1px solid var(--line); padding: 7px 8px; cursor: pointer;
}
li button[aria-current] { background: var(--accent-soft); box-shadow: inset 3px 0 0 var(--accent); }
/* Amber on the chosen row is too pale to be read. */
li button[aria-current] .attention { color: var(--ink); font-weight: 600; }
.said { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
.question { white-space: pre-wrap; margin: 10px 0; font-size: 17px; }
.acts { display: flex; gap: 8px; margin-top: 12px; }
.acts .el-button { margin: 0; }
@media (max-width: 900px) { .two { grid-template-columns: minmax(0, 1fr); } .keys { display: none; } }
</style>
