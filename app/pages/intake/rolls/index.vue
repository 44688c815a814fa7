<script setup lang="ts">
import type { RollRow } from '~~/shared/rolls'

/** Nominal rolls: tables of many people from one sender, taken in, tried and entered. */
useHead({ title: titled(say('rolls.nominalRolls')) })
const cycle = useCycleStore()
const spelling = useSpelling()
const router = useRouter()
const rolls = shallowRef<RollRow[]>([])
const sender = ref('')
const input = ref<HTMLInputElement | null>(null)
const { busy, refusal, send } = useSubmission()
const senders = computed(
  () => [...new Set([...cycle.notice?.information?.institutions.map(one => one.title) ?? [], ...rolls.value.map(row => row.sender)])]
)

const choose = (event: Event) =>
  send(async () => {
    const target = event.target as HTMLInputElement
    const file = target.files?.[0]
    target.value = ''
    if (!file) return
    const { id } = await callApi<RollRow>(cycle.path('rolls'), {
      method: 'POST',
      bytes: file,
      query: { sender: sender.value.trim(), name: file.name },
    })
    await router.push(`/intake/rolls/${id}`)
  })
const { failure } = useLoaded(async () => {
  rolls.value = await callApi<RollRow[]>(cycle.path('rolls'))
})
</script>

<template>
  <p
    v-if="failure"
    class="page note is-refusal"
  >
    {{ failure }}
  </p>
  <div
    v-else
    class="sheet-row head"
  >
    <div class="body">
      <h1>{{ say('rolls.nominalRolls') }}</h1>
      <form
        class="take"
        @submit.prevent="input?.click()"
      >
        <div>
          <label for="roll-sender"><b>{{ say('rolls.sender') }}</b></label>
          <input
            id="roll-sender"
            v-model="sender"
            class="field"
            list="roll-senders"
            autocomplete="off"
            maxlength="200"
          >
          <datalist id="roll-senders">
            <option
              v-for="one in senders"
              :key="one"
              :value="one"
            />
          </datalist>
          <p class="soft small">
            {{ say('rolls.senderHelp') }}
          </p>
        </div>
        <ElButton
          type="primary"
          native-type="submit"
          :disabled="sender.trim().length < 2"
          :loading="busy"
        >
          {{ say('rolls.chooseFile') }}
        </ElButton>
        <input
          ref="input"
          type="file"
          accept=".csv,.tsv,.txt,.xlsx,.ods,text/csv"
          class="visually-hidden"
          tabindex="-1"
          :aria-label="say('rolls.fileOfTheRoll')"
          @change="choose"
        >
      </form>
      <HouseAlert
        :text="refusal"
        kind="refusal"
      />
      <p
        v-if="rolls.length === 0"
        class="soft"
      >
        {{ say('rolls.noneYet') }}
      </p>
      <ul>
        <li
          v-for="row in rolls"
          :key="row.id"
        >
          <NuxtLink :to="`/intake/rolls/${row.id}`">{{ row.name }}</NuxtLink> <span>{{ row.sender }} · {{ say('rolls.rowsIn', { rows: row.rows }) }} · {{ say('rolls.states', { state: row.state }) }}</span>
          <span class="soft small"><br>{{ say('rolls.by', { by: row.by, at: spelling.instant(row.at) }) }}</span>
        </li>
      </ul>
    </div>
    <div class="beside">
      <p class="soft small">
        {{ say('rolls.whatARollIs') }}
      </p>
      <p class="soft small">
        {{ say('rolls.sheetFirst') }}
      </p>
    </div>
  </div>
</template>

<style scoped>
.take { display: flex; flex-wrap: wrap; gap: 16px; align-items: start; padding: 14px 0; }
.take > div { flex: 1 1 320px; max-width: 520px; }
.take :deep(.el-button) { margin-top: 24px; }
ul { list-style: none; padding: 0; margin: 8px 0; }
li { padding: 8px 0; border-bottom: 1px solid var(--line); }
.beside p { margin: 24px 0 8px; }
.beside p + p { margin-top: 0; }
</style>
