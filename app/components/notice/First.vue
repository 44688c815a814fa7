<script setup lang="ts">
import { ProblemError } from '~~/shared/problem'

/** An office without a cycle: opens one with the file of its first notice. */
const session = useSessionStore()
const cycle = useCycleStore()
const busy = ref(false)
const refusal = ref('')
const drafts = ref<{ keep: (document: unknown) => Promise<boolean> } | null>(null)

async function open(notice: unknown) {
  if (busy.value) return
  busy.value = true
  refusal.value = ''
  try {
    const { code } = await callApi<{ code: string }>('/api/cycles', { method: 'POST', body: { notice } })
    await cycle.load(true)
    await cycle.choose(code)
  } catch (error) {
    const isKept = error instanceof ProblemError && ['notice.faults', 'notice.warnings'].includes(error.problem.code)
      && await drafts.value?.keep(notice)
    refusal.value = isKept ? say('notice.keptAsADraft', { problem: problemText(error) }) : problemText(error)
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <div class="page">
    <h1>{{ say('notice.theFirstNotice') }}</h1>
    <p class="soft">
      {{ say('notice.aNoticeDefinesOneExaminationIts') }}
    </p>
    <HouseAlert
      :text="refusal"
      kind="refusal"
    />
    <template v-if="session.may('notice.amend')">
      <NoticeStart />
      <NoticeFileButton
        :label="say('notice.fileOfANotice')"
        :loading="busy"
        @chosen="open"
      >
        {{ say('notice.chooseTheFileOfANotice') }}
      </NoticeFileButton>
      <p class="soft small">
        {{ say('notice.itIsCheckedForFaultsBefore') }}
      </p>
      <NoticeDrafts ref="drafts" />
    </template>
    <p v-else>
      {{ say('notice.aRegistrationOfficerOpensIt') }}
    </p>
  </div>
</template>

<style scoped>
p { max-width: 640px; margin: 10px 0; }
</style>
