<script setup lang="ts">
/** An office without a cycle: opens one with the file of its first notice. */
const session = useSessionStore()
const cycle = useCycleStore()
const input = ref<HTMLInputElement | null>(null)
const busy = ref(false)
const refusal = ref('')

async function chosen(event: Event) {
  const target = event.target as HTMLInputElement
  const file = target.files?.[0]
  target.value = ''
  if (!file || busy.value) return
  busy.value = true
  refusal.value = ''
  try {
    const notice: unknown = JSON.parse(await file.text())
    const { code } = await callApi<{ code: string }>('/api/cycles', { method: 'POST', body: { notice } })
    await cycle.load(true)
    await cycle.choose(code)
  } catch (error) {
    refusal.value = error instanceof SyntaxError ? say('notice.isNotJsonChooseTheFile', { name: file.name }) : problemText(error)
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
      <input
        ref="input"
        type="file"
        accept="application/json,.json"
        class="visually-hidden"
        :aria-label="say('notice.fileOfANotice')"
        @change="chosen"
      >
      <ElButton
        type="primary"
        :loading="busy"
        @click="input?.click()"
      >
        {{ say('notice.chooseTheFileOfANotice') }}
      </ElButton>
      <p class="soft small">
        {{ say('notice.itIsCheckedForFaultsBefore') }}
      </p>
    </template>
    <p v-else>
      {{ say('notice.aRegistrationOfficerOpensIt') }}
    </p>
  </div>
</template>

<style scoped>
p { max-width: 640px; margin: 10px 0; }
</style>
