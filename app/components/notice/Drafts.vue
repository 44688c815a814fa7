<script setup lang="ts">
import type { DraftDetail, DraftRow } from '~~/shared/notice'

/** Notices in work: what is wrong in each, how it differs from the one in force, and the way on. */
const cycle = useCycleStore()
const session = useSessionStore()
const spelling = useSpelling()
const { differenceWords } = useWords().differences
const drafts = shallowRef<DraftRow[]>([])
const open = shallowRef<DraftDetail | null>(null)
const shownAtMost = 40

const load = () =>
  attempt(async () => {
    if (session.may('notice.amend')) drafts.value = await callApi<DraftRow[]>('/api/drafts')
  })
const { busy, refusal, send: submit } = useSubmission()

/** Keeps a document as a draft, whatever is wrong with it. */
async function keep(document: unknown, instead: DraftRow | null = null): Promise<boolean> {
  const kept = await attempt(() =>
    callApi(`/api/drafts/${instead?.id ?? crypto.randomUUID()}`, { method: 'PUT', body: { document, revision: instead?.revision ?? 0 } })
  )
  if (kept) open.value = null
  return await load() && kept
}
const keepChosen = (json: unknown, instead: DraftRow | null = null) => submit(() => keep(json, instead).then(() => undefined))
const show = (draft: DraftRow) =>
  attempt(async () => {
    open.value = open.value?.id === draft.id ? null : await callApi<DraftDetail>(`/api/drafts/${draft.id}`)
  })
const documentOf = async (draft: DraftRow) => (await callApi<DraftDetail>(`/api/drafts/${draft.id}`)).document
const download = (draft: DraftRow) =>
  attempt(async () =>
    saveFile(`${draft.cycle ?? 'notice'}-draft.json`, JSON.stringify(await documentOf(draft), null, 2), 'application/json')
  )
const drop = async (draft: DraftRow) => {
  drafts.value = await callApi<DraftRow[]>(`/api/drafts/${draft.id}`, { method: 'DELETE' })
  localStorage.removeItem(`lucid-draft-${draft.id}`)
}
const use = (draft: DraftRow) =>
  submit(async () => {
    const { code } = await callApi<{ code: string }>('/api/cycles', { method: 'POST', body: { notice: await documentOf(draft) } })
    await drop(draft)
    await cycle.load(true)
    await cycle.choose(code)
  })
onMounted(load)
</script>

<template>
  <section
    v-if="session.may('notice.amend')"
    class="drafts"
  >
    <h2 class="section-title">
      {{ say('notice.drafts') }}
    </h2>
    <HouseAlert
      :text="refusal"
      kind="refusal"
    />
    <div class="keep">
      <NoticeFileButton
        :label="say('notice.fileOfADraft')"
        :loading="busy"
        @chosen="keepChosen"
      >
        {{ say('notice.keepAFileAsADraft') }}
      </NoticeFileButton>
    </div>
    <ul>
      <li
        v-for="draft in drafts"
        :key="draft.id"
      >
        <p>
          <b>{{ draft.title || say('notice.withoutATitle') }}</b> <span class="soft">{{ draft.cycle ?? say('notice.withoutACode') }}</span>
          <span :class="draft.errors > 0 ? 'refused' : 'settled'"><br>{{ draft.errors > 0 ? say('notice.errorsOfDraft', { errors: draft.errors }) : say('notice.draftIsSound', { warnings: draft.warnings }) }}</span>
          <span class="soft small"><br>{{ say('notice.keptBy', { by: draft.by, at: spelling.instant(draft.at) }) }}</span>
        </p>
        <div class="presses">
          <NuxtLink :to="`/notice/draft/${draft.id}`">{{ say('notice.workOnDraft') }}</NuxtLink>
          <button
            v-if="draft.isCycle"
            class="press"
            :aria-expanded="open?.id === draft.id"
            @click="show(draft)"
          >
            {{ open?.id === draft.id ? say('notice.hide') : say('notice.lookAt') }}
          </button>
          <button
            class="press"
            @click="download(draft)"
          >
            {{ say('notice.downloadDraft') }}
          </button>
          <NoticeFileButton
            :label="say('notice.fileOfADraft')"
            :loading="busy"
            small
            @chosen="json => keepChosen(json, draft)"
          >
            {{ say('notice.replaceByAFile') }}
          </NoticeFileButton>
          <button
            v-if="draft.errors === 0 && draft.warnings === 0 && !draft.isCycle"
            class="press"
            :disabled="busy"
            @click="use(draft)"
          >
            {{ say('notice.openTheCycle') }}
          </button>
          <ElPopconfirm
            :title="say('notice.throwAwayAsk')"
            :confirm-button-text="say('notice.throwAway')"
            :cancel-button-text="say('notice.keepIt')"
            @confirm="submit(() => drop(draft))"
          >
            <template #reference>
              <button class="press">
                {{ say('notice.throwAway') }}
              </button>
            </template>
          </ElPopconfirm>
        </div>
        <div
          v-if="open?.id === draft.id"
          class="detail small"
        >
          <template v-if="open.isCycle">
            <p><b>{{ say('notice.againstTheNoticeInForce', { differences: open.differences.length }) }}</b></p>
            <p
              v-for="(difference, i) in open.differences.slice(0, shownAtMost)"
              :key="i"
            >
              {{ cycle.notice ? differenceWords(cycle.notice, difference) : '' }}
            </p>
            <p v-if="open.differences.length > shownAtMost">
              {{ say('notice.andMoreDifferences', { more: open.differences.length - shownAtMost }) }}
            </p>
          </template>
        </div>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.drafts { padding-bottom: 24px; }
.keep { margin-top: 10px; }
ul { list-style: none; padding: 0; margin: 8px 0; }
li { padding: 8px 0; }
.presses { display: flex; flex-wrap: wrap; gap: 2px 14px; }
.detail { margin-top: 8px; padding-left: 10px; border-left: 2px solid var(--line-strong); overflow-wrap: anywhere; }
.detail li { padding: 2px 0; }
.detail p { margin: 4px 0; }
.refused { color: var(--refusal); }
.settled { color: var(--settled); }
</style>
