<script setup lang="ts">
import type { SchemaNode } from '~~/core/notice/form'
import { isTabular } from '~~/core/notice/form'
import { isError, pointer, valueAt } from '~~/core/notice/finding'

/** The members of a list: as a table, as ticks, as plain entries, or each unfolded on its own. */
const props = defineProps<{ node: SchemaNode, at: string, label: string }>()
const { draft, forms, target } = useNoticeEditor()
const { memberTitle } = useWords().notices
const { valueTitle } = useWords().noticeParts
const of = computed(() => forms.resolve(forms.resolve(props.node).items ?? {}))
const form = computed(() => forms.formOf(of.value))
const members = computed(() => {
  const held = valueAt(draft.document.value, props.at)
  return Array.isArray(held) ? held as unknown[] : []
})
const isRestDays = computed(() => props.at.endsWith('/restDays'))
const isPlain = computed(() => ['text', 'number', 'amount', 'yes-no'].includes(form.value.kind))
const weekdays = Array.from(
  { length: 7 },
  (_, i) => ({
    value: i,
    title: new Intl.DateTimeFormat(useWords().locale, { weekday: 'long', timeZone: 'UTC' }).format(new Date(Date.UTC(2026, 0, 4 + i))),
  }),
)

/** A city that the notice only names is called as the register has it. */
const titleOf = (member: unknown): string | undefined => {
  const named = props.at === '/cities' && typeof member === 'object' && member !== null && 'id' in member
    ? draft.detail.value?.register.find(city => city.id === member.id)?.title
    : undefined
  return named ?? memberTitle(member) ?? undefined
}

/** What a folded city holds. */
const note = (member: unknown): string => {
  const venues = typeof member === 'object' && member !== null && 'venues' in member && Array.isArray(member.venues)
    ? member.venues as { rooms?: { seats?: unknown }[] }[]
    : null
  return venues
    ? say('edit.seatsInVenues', {
      seats: venues.flatMap(v => v.rooms ?? []).reduce((n, room) => n + (typeof room.seats === 'number' ? room.seats : 0), 0),
      venues: venues.length,
    })
    : ''
}

const open = ref<Record<number, boolean>>({})
// Whoever jumps to a place finds it unfolded.
watch(target, (at) => {
  const step = at.startsWith(`${props.at}/`) ? Number(at.slice(props.at.length + 1).split('/')[0]) : NaN
  if (Number.isInteger(step)) open.value = { ...open.value, [step]: true }
}, { immediate: true })

const place = (i: number) => `${props.at}${pointer(i)}`
const put = (list: unknown[]) => draft.set(props.at, list)
function add() {
  put([...members.value, memberBlank(forms, of.value, members.value.length)])
  target.value = place(members.value.length - 1)
}
const takeOut = (i: number) => {
  put(members.value.filter((_, k) => k !== i))
  open.value = {}
}
function move(i: number, by: number) {
  const list = [...members.value]
  const [one] = list.splice(i, 1)
  list.splice(i + by, 0, one)
  put(list)
  open.value = { [i + by]: open.value[i] ?? false }
}
const foundIn = (i: number) => draft.findings.value.filter(f => f.at === place(i) || f.at.startsWith(`${place(i)}/`))
</script>

<template>
  <div>
    <EditReference
      v-if="form.kind === 'reference'"
      :at="at"
      :to="form.to"
      :label="label"
      several
    />
    <ElCheckboxGroup
      v-else-if="form.kind === 'choice'"
      :model-value="members.map(String)"
      :aria-label="label"
      @update:model-value="put"
    >
      <ElCheckbox
        v-for="one in form.values"
        :key="one"
        :value="one"
      >
        {{ valueTitle(one) }}
      </ElCheckbox>
    </ElCheckboxGroup>
    <ElCheckboxGroup
      v-else-if="isRestDays"
      :model-value="members.map(Number)"
      :aria-label="label"
      @update:model-value="put"
    >
      <ElCheckbox
        v-for="one in weekdays"
        :key="one.value"
        :value="one.value"
      >
        {{ one.title }}
      </ElCheckbox>
    </ElCheckboxGroup>
    <EditTable
      v-else-if="isTabular(forms, of)"
      :of="of"
      :at="at"
      :label="label"
    />
    <template v-else-if="isPlain">
      <div
        v-for="(_, i) in members"
        :id="`place${place(i)}`"
        :key="i"
        class="plain"
      >
        <div class="grow">
          <EditValue
            :node="of"
            :at="place(i)"
            :label="`${label} ${i + 1}`"
          />
        </div>
        <button
          class="press small"
          @click="takeOut(i)"
        >
          {{ say('edit.takeOut') }}
        </button>
      </div>
      <button
        class="press small"
        @click="add"
      >
        {{ say('edit.addAnEntry') }}
      </button>
    </template>
    <template v-else>
      <details
        v-for="(member, i) in members"
        :id="`place${place(i)}`"
        :key="i"
        :open="open[i]"
        class="member"
        @toggle="open[i] = ($event.target as HTMLDetailsElement).open"
      >
        <summary>
          {{ titleOf(member) ?? say('edit.entryNumber', { n: i + 1 }) }} <span class="soft small">{{ note(member) }}</span> <span
            v-if="foundIn(i).length > 0"
            class="small"
            :class="foundIn(i).some(isError) ? 'refusal' : 'attention'"
          >{{ say('edit.findings', { n: foundIn(i).length }) }}</span>
        </summary>
        <template v-if="open[i]">
          <p class="acts small">
            <button
              class="press"
              :disabled="i === 0"
              @click="move(i, -1)"
            >
              {{ say('edit.up') }}
            </button>
            <button
              class="press"
              :disabled="i === members.length - 1"
              @click="move(i, 1)"
            >
              {{ say('edit.down') }}
            </button>
            <button
              class="press"
              @click="put([...members.slice(0, i + 1), plain(member), ...members.slice(i + 1)])"
            >
              {{ say('edit.copy') }}
            </button>
            <button
              class="press"
              @click="takeOut(i)"
            >
              {{ say('edit.takeOut') }}
            </button>
          </p>
          <EditValue
            :node="of"
            :at="place(i)"
            :label="titleOf(member) ?? label"
          />
        </template>
      </details>
      <EditCityAdd
        v-if="at === '/cities'"
        :at="at"
      />
      <button
        class="press small"
        @click="add"
      >
        {{ at === '/cities' ? say('edit.describeACity') : say('edit.addAnEntry') }}
      </button>
    </template>
    <EditFindings :at="at" />
  </div>
</template>

<style scoped>
.plain { display: flex; gap: 8px; align-items: start; padding: 2px 0; }
.grow { flex: 1; min-width: 0; }
.member { border-bottom: 1px solid var(--line); padding: 4px 0; }
.member > summary { cursor: pointer; padding: 4px 0; }
.member > :not(summary) { margin-left: 14px; }
.acts { display: flex; gap: 14px; padding: 2px 0 6px; }
.acts button:disabled { color: var(--ink-soft); text-decoration: none; cursor: default; }
</style>
