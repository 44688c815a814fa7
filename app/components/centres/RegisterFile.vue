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
      <table
        v-if="seen.faults.length > 0"
        class="plain-table"
      >
        <thead><tr><th class="number">{{ say('centres.row') }}</th><th>{{ say('centres.whatIsWrong') }}</th></tr></thead>
        <tbody>
          <tr
            v-for="fault in seen.faults"
            :key="`${fault.at} ${fault.column} ${fault.code}`"
          >
            <td class="number">
              {{ fault.at }}
            </td><td>{{ say('centres.rowFault', { code: fault.code, column: fault.column, value: fault.value, other: fault.other }) }}</td>
          </tr>
        </tbody>
      </table>
      <table
        v-if="seen.changes.length > 0"
        class="plain-table"
      >
        <thead><tr><th>{{ say('centres.place') }}</th><th>{{ say('centres.whatChanges') }}</th></tr></thead>
        <tbody>
          <tr
            v-for="change in seen.changes"
            :key="change.kind + change.code"
          >
            <td>{{ change.title }} <span class="soft small">{{ change.code }}</span></td><td>{{ change.isNew ? say('centres.newPlace', { kind: change.kind }) : change.facts.map(fact => `${fact.before} → ${fact.after}`).join('; ') }}</td>
          </tr>
        </tbody>
      </table>
    </template>
  </section>
</template>

<style scoped>
section { margin-top: 30px; }
</style>
