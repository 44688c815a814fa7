<script setup lang="ts">
import { isError, stepsOf, type NoticeFinding } from '~~/core/notice/finding'
import type { JobView } from '~~/shared/centres'
import { groupOf, NoticeForms, noticeGroups, type NoticeGroup } from '~~/core/notice/form'

/** A draft of a notice, part by part in the order of the work; beside it what is found, live, with a jump to the place. */
const route = useRoute()
const router = useRouter()
const cycle = useCycleStore()
const draft = useDraft(String(route.params.id))
const forms = new NoticeForms()
const target = ref('')
provide(noticeEditorKey, { draft, forms, target })
const { groupTitles } = useWords().noticeParts
const names = Object.keys(noticeGroups) as NoticeGroup[]
const group = computed<NoticeGroup>(() => names.find(name => name === route.query.part) ?? 'examination')
const title = computed(() => draft.readable.value.title || say('edit.withoutATitle'))
useHead({ title: () => titled(say('edit.draftOf', { title: title.value })) })

const groupOfFinding = (finding: NoticeFinding) => groupOf(stepsOf(finding.at)[0] ?? '')
const counts = computed(() => {
  const found = new Map<NoticeGroup, { errors: number, warnings: number }>()
  for (const finding of draft.findings.value) {
    const name = groupOfFinding(finding)
    const { errors, warnings } = found.get(name) ?? { errors: 0, warnings: 0 }
    found.set(name, isError(finding) ? { errors: errors + 1, warnings } : { errors, warnings: warnings + 1 })
  }
  return found
})
const errors = computed(() => draft.findings.value.filter(isError).length)
const warnings = computed(() => draft.findings.value.length - errors.value)
const states = computed(() => ({
  'kept': draft.keptAt.value ? say('edit.keptAt', { at: draft.keptAt.value.toLocaleTimeString(useWords().locale) }) : say('edit.kept'),
  'waiting': say('edit.waiting'),
  'keeping': say('edit.keeping'),
  'kept here': say('edit.keptHere'),
}))

/** Shows the place of a finding and puts the cursor there. */
async function jump(at: string) {
  const name = groupOf(stepsOf(at)[0] ?? '')
  if (name !== group.value) await router.replace({ query: { ...route.query, part: name } })
  target.value = ''
  await nextTick()
  target.value = at
  await nextTick()
  await nextTick()
  for (let place = at; place !== ''; place = place.slice(0, place.lastIndexOf('/'))) {
    const element = document.getElementById(`place${place}`)
    if (!element) continue
    element.scrollIntoView({ block: 'center' })
    element.querySelector<HTMLElement>('input, textarea, select, button')?.focus({ preventScroll: true })
    return
  }
}

const asking = ref(false)
const { busy, refusal, send } = useSubmission()
const use = (reason?: string) =>
  send(async () => {
    await draft.keep()
    if (draft.detail.value?.isCycle && draft.detail.value.cycle) {
      if (draft.detail.value.cycle !== cycle.code) await cycle.choose(draft.detail.value.cycle)
      const { id } = await callApi<JobView>(cycle.path('reviews'), { method: 'POST', body: { notice: draft.document.value, reason } })
      return void await router.push(`/notice/review/${id}`)
    }
    const { code } = await callApi<{ code: string }>('/api/cycles', {
      method: 'POST',
      body: { notice: draft.document.value, ...(reason ? { reason } : {}) },
    })
    await callApi(`/api/drafts/${String(route.params.id)}`, { method: 'DELETE' })
    draft.forget()
    await cycle.load(true)
    await cycle.choose(code)
    await router.push('/notice')
  })
const open = () => warnings.value > 0 || draft.detail.value?.isCycle ? asking.value = true : void use()

function keys(event: KeyboardEvent) {
  if (!(event.ctrlKey || event.metaKey) || event.altKey) return
  const key = event.key.toLowerCase()
  if (key === 'z' && !event.shiftKey) draft.undo()
  else if ((key === 'z' && event.shiftKey) || key === 'y') draft.redo()
  else return
  event.preventDefault()
}
const { failure } = useLoaded(draft.load)
</script>

<template>
  <p
    v-if="failure"
    class="page note is-refusal"
  >
    {{ failure }} <NuxtLink to="/notice">{{ say('edit.toTheNotice') }}</NuxtLink>
  </p>
  <div
    v-else-if="draft.document.value"
    class="editor"
    @keydown="keys"
  >
    <header>
      <h1>{{ title }} <span class="soft small">{{ draft.readable.value.code }}</span></h1>
      <p
        class="soft small state"
        role="status"
      >
        {{ states[draft.state.value] }} {{ draft.trouble.value }}
      </p>
      <ElButton
        :disabled="draft.past.value.length === 0"
        @click="draft.undo"
      >
        {{ say('edit.undo') }}
      </ElButton>
      <ElButton
        :disabled="draft.ahead.value.length === 0"
        @click="draft.redo"
      >
        {{ say('edit.redo') }}
      </ElButton>
      <ElButton
        type="primary"
        :disabled="errors > 0"
        :loading="busy"
        @click="open"
      >
        {{ draft.detail.value?.isCycle ? say('edit.proposeTheAmendment') : say('edit.openTheCycle') }}
      </ElButton>
    </header>
    <HouseAlert
      :text="refusal"
      kind="refusal"
    />
    <EditClashes />
    <div class="columns">
      <nav :aria-label="say('edit.partsOfTheNotice')">
        <NuxtLink
          v-for="name in names"
          :key="name"
          :to="{ query: { part: name } }"
          replace
          :aria-current="name === group ? 'page' : undefined"
        >
          {{ groupTitles[name] }}<span
            v-if="counts.get(name)"
            class="small"
            :class="counts.get(name)?.errors ? 'refusal' : 'attention'"
          ><br>{{ counts.get(name)?.errors ? say('edit.errors', { n: counts.get(name)?.errors ?? 0 }) : say('edit.warnings', { n: counts.get(name)?.warnings ?? 0 }) }}</span>
        </NuxtLink>
      </nav>
      <div class="body">
        <EditDateLine v-if="group === 'dates'" />
        <LazyEditCityMap v-if="group === 'centres'" />
        <EditParts
          :key="group"
          :node="forms.root"
          at=""
          :label="groupTitles[group]"
          :only="noticeGroups[group].filter(part => part !== 'translations')"
        />
        <LazyEditLetterTrial v-if="group === 'texts'" />
        <LazyEditLanguages v-if="group === 'texts'" />
        <EditTryPerson v-if="group === 'posts' || group === 'fees' || group === 'files'" />
        <LazyEditRehearse v-if="group === 'posts' || group === 'fees' || group === 'centres'" />
      </div>
      <EditMargin
        :group="group"
        @jump="jump"
      />
    </div>
    <EditOpenDialog
      v-model="asking"
      :busy="busy"
      @open="use"
    />
  </div>
</template>

<style scoped>
/* The areas of the work stay above; everything that stays here stays below them. */
.editor { --below-top: 126px; background: var(--sheet); min-height: 100%; }
header {
  display: flex; flex-wrap: wrap; gap: 8px 12px; align-items: center; padding: 14px 24px 10px; border-bottom: 1px solid var(--line);
  position: sticky; top: var(--below-top); z-index: 4; background: var(--sheet);
}
header h1 { font-size: 22px; margin-right: auto; }
.state { min-width: 150px; text-align: right; }
.columns { display: grid; grid-template-columns: 190px minmax(0, 1fr) 330px; align-items: start; }
nav { padding: 12px 0 12px 24px; position: sticky; top: calc(var(--below-top) + 58px); display: grid; }
nav a {
  display: block; padding: 7px 10px; color: var(--ink); text-decoration: none; border-left: 3px solid transparent; line-height: 1.25;
}
nav a:hover { text-decoration: underline; }
nav a[aria-current] { border-left-color: var(--accent); background: var(--accent-soft); font-weight: 600; }
nav a span { font-weight: 400; }
.body { padding: 12px 24px 60px; min-width: 0; }
@media (max-width: 1000px) {
  header { position: static; }
  .columns { grid-template-columns: minmax(0, 1fr); }
  nav { position: static; padding: 8px 16px; grid-template-columns: repeat(auto-fill, minmax(150px, 1fr)); }
  .body { padding: 8px 16px 30px; overflow-x: auto; }
}
</style>
