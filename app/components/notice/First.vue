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
    refusal.value = error instanceof SyntaxError ? `${file.name} is not JSON. Choose the file of a notice.` : problemText(error)
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <div class="page">
    <h1>The first notice</h1>
    <p class="soft">
      A notice defines one examination: its posts and rules, dates, fees, pictures, cities and texts. It is one JSON file; every part is described in the formats of the documentation.
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
        aria-label="File of a notice"
        @change="chosen"
      >
      <ElButton
        type="primary"
        :loading="busy"
        @click="input?.click()"
      >
        Choose the file of a notice
      </ElButton>
      <p class="soft small">
        It is checked for faults before it is put in force; a file with a fault changes nothing.
      </p>
    </template>
    <p v-else>
      A registration officer opens it.
    </p>
  </div>
</template>

<style scoped>
p { max-width: 640px; margin: 10px 0; }
</style>
