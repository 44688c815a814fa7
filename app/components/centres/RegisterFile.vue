<script setup lang="ts">
import type { RegisterFileView } from '~~/shared/places'

/** A file of the register: tried first, then entered for the examination in work. */
const emit = defineEmits<{ entered: [] }>()
const cycle = useCycleStore()
const file = shallowRef<File | null>(null)
const seen = shallowRef<RegisterFileView | null>(null)
const { busy, refusal, send: run } = useSubmission()
function choose(event: Event) {
  file.value = (event.target as HTMLInputElement).files?.[0] ?? null
  seen.value = null
  if (file.value) void send('try')
}
const send = (mode: 'try' | 'do') =>
  run(async () => {
    const bytes = file.value
    if (!bytes) return
    seen.value = await callApi<RegisterFileView>(cycle.path('register'), { method: 'POST', bytes, query: { mode } })
    if (mode === 'do') emit('entered')
  })
const brings = computed(() =>
  seen.value !== null && seen.value.faultCount === 0 && seen.value.counts.isNew + seen.value.counts.isChanged + seen.value.booked > 0
)
</script>

<template>
  <section>
    <h2>{{ say('centres.registerFile') }}</h2>
    <p class="soft small">
      {{ say('centres.registerFileHelp', { cycle: cycle.code ?? '' }) }}
    </p>
    <label class="small">{{ say('centres.chooseFile') }} <input
      type="file"
      accept=".csv,.xlsx,.ods,.geojson,.json"
      :disabled="busy"
      @change="choose"
    ></label>
    <HouseAlert
      :text="refusal"
      kind="refusal"
    />
    <template v-if="seen">
      <p
        class="note"
        role="status"
      >
        {{ say('centres.fileBrings', { rows: seen.rows, isNew: seen.counts.isNew, isChanged: seen.counts.isChanged, booked: seen.booked, seats: seen.seats, done: String(seen.isEntered) }) }}
        <template v-if="seen.faultCount > 0">
          {{ say('centres.fileIsWrong', { faults: seen.faultCount }) }}
        </template>
        <template v-if="seen.kept > 0">
          {{ say('centres.fileKeeps', { kept: seen.kept }) }}
        </template>
        <template v-if="seen.ofOthers > 0">
          {{ say('centres.fileOthers', { rows: seen.ofOthers }) }}
        </template>
      </p>
      <ElButton
        v-if="brings && !seen.isEntered"
        type="primary"
        :loading="busy"
        @click="send('do')"
      >
        {{ say('centres.enterFile') }}
      </ElButton>
      <HouseTable
        v-if="seen.faults.length > 0"
        :columns="[
          { key: 'row', title: say('centres.row'), kind: 'number', text: fault => fault.at },
          {
            key: 'wrong',
            title: say('centres.whatIsWrong'),
            text: ({ code, column, value, other }) => say('centres.rowFault', { code, column, value, other }),
          },
        ]"
        :rows="seen.faults"
        :row-key="fault => `${fault.at} ${fault.column} ${fault.code}`"
      />
      <HouseTable
        v-if="seen.changes.length > 0"
        :columns="[
          { key: 'place', title: say('centres.place') },
          {
            key: 'changes',
            title: say('centres.whatChanges'),
            text: change =>
              change.isNew
                ? say('centres.newPlace', { kind: change.kind })
                : change.facts.map(fact => `${fact.before} → ${fact.after}`).join('; '),
          },
        ]"
        :rows="seen.changes"
        :row-key="change => change.kind + change.code"
      >
        <template #place="{ row: change }">
          {{ change.title }} <span class="soft small">{{ change.code }}</span>
        </template>
      </HouseTable>
    </template>
  </section>
</template>

<style scoped>
section { margin-top: 30px; }
</style>
