<script setup lang="ts">
import type { RollDetail } from '~~/shared/rolls'

/** Words of the sender's own that the notice does not know: what each means is said once for all rows. */
const { roll } = defineProps<{ roll: RollDetail, disabled: boolean }>()
const emit = defineEmits<{ use: [words: RollDetail['options']['words']] }>()
/** What was chosen and not used yet, by field and word; null leaves a word as it is. */
const chosen = ref<Record<string, Record<string, string | null>>>({})
watch(() => roll.unknown, () => {
  chosen.value = {}
})
const rows = computed(() =>
  roll.unknown.flatMap(({ field, title, members, words }) =>
    words.map(({ word, rows: n, means }) => ({ key: `${field} ${word}`, field, title, members, word, n, means }))
  )
)
type Line = (typeof rows.value)[number]
const meaning = ({ field, word, means }: Line) => chosen.value[field]?.[word] === undefined ? means : chosen.value[field][word]
const choose = ({ field, word }: Line, member: string | null) => {
  chosen.value = { ...chosen.value, [field]: { ...chosen.value[field], [word]: member } }
}
const isChanged = computed(() => Object.keys(chosen.value).length > 0)
const use = () =>
  emit(
    'use',
    Object.fromEntries(roll.unknown.map(({ field }) => {
      const said = { ...roll.options.words[field], ...chosen.value[field] }
      return [field, Object.fromEntries(Object.entries(said).flatMap(([word, member]) => member === null ? [] : [[word, member]]))]
    })),
  )
/** Stands for a word that says none of them, as an empty choice would stand for no choice. */
const none = '\u0000'
</script>

<template>
  <section v-if="rows.length > 0">
    <h2 class="section-title">
      {{ say('rolls.unknownWords') }}
    </h2>
    <p class="soft small">
      {{ say('rolls.unknownWordsHelp') }}
    </p>
    <HouseTable
      :columns="[
        { key: 'field', title: say('rolls.field'), text: row => row.title },
        { key: 'word', title: say('rolls.asWritten') },
        { key: 'rows', title: say('rolls.rows'), kind: 'number', text: row => row.n > 0 ? countText(row.n) : '' },
        { key: 'means', title: say('rolls.means') },
      ]"
      :rows="rows"
      :row-key="row => row.key"
    >
      <template #word="{ row }">
        <b>{{ row.word }}</b>
      </template>
      <template #means="{ row }">
        <ElSelect
          :model-value="meaning(row) === '' ? none : meaning(row) ?? undefined"
          :aria-label="say('rolls.meaningOf', { word: row.word, field: row.title })"
          :placeholder="say('rolls.notKnown')"
          :disabled="disabled"
          filterable
          clearable
          style="width: 250px"
          @update:model-value="(member: string | undefined) => choose(row, member === none ? '' : member || null)"
        >
          <ElOption
            v-for="member in row.members"
            :key="member.id"
            :value="member.id"
            :label="member.title"
          />
          <ElOption
            :value="none"
            :label="say('rolls.meansNone')"
          />
        </ElSelect>
      </template>
    </HouseTable>
    <p class="use">
      <ElButton
        :disabled="disabled || !isChanged"
        @click="use"
      >
        {{ say('rolls.useWords') }}
      </ElButton>
    </p>
  </section>
</template>

<style scoped>
section { margin-top: 18px; }
.use { padding-top: 10px; }
</style>
