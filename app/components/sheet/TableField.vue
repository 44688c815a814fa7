<script setup lang="ts">
import type { Row } from '~~/core/application/answers'
import type { Question } from '~~/core/notice/schema'

/** A table question: one line a row, a last empty one that becomes a row when something is typed into it. */
const props = defineProps<{ question: Extract<Question, { kind: 'table' }>, rows: Row[], flawed: boolean }>()
const emit = defineEmits<{ change: [rows: Row[]] }>()

const shown = computed(() => props.rows.length < props.question.maxRows ? [...props.rows, {} as Row] : props.rows)

function type(index: number, column: string, text: string) {
  const rows = shown.value.map((row, i) => i === index ? { ...row, [column]: text ?? '' } : row)
  emit('change', rows.filter((row, i) => i < props.rows.length || Object.values(row).some(cell => cell !== '')))
}
function remove(index: number) {
  emit('change', props.rows.filter((_, i) => i !== index))
}
const cellLabel = (index: number, label: string) => say('sheet.cellOfRow', { label: props.question.label, index: index + 1, label2: label })
const widths = { choice: '200px', date: '136px', marks: '84px', text: '84px' } as const
const width = (index: number, kind: keyof typeof widths) => index === 0 ? '200px' : widths[kind]
</script>

<template>
  <table
    class="rows"
    :class="{ flawed }"
  >
    <thead>
      <tr>
        <th
          v-for="column in question.columns"
          :key="column.id"
        >
          {{ column.label }}
        </th>
        <th><span class="visually-hidden">{{ say('sheet.remove') }}</span></th>
      </tr>
    </thead>
    <tbody>
      <tr
        v-for="(row, index) in shown"
        :key="index"
      >
        <td
          v-for="(column, place) in question.columns"
          :key="column.id"
        >
          <FieldPick
            v-if="column.kind === 'choice'"
            :model-value="row[column.id] ?? ''"
            :options="column.options"
            :aria-label="cellLabel(index, column.label)"
            :style="{ width: width(place, column.kind) }"
            @update:model-value="type(index, column.id, $event)"
          />
          <SheetDateField
            v-else-if="column.kind === 'date'"
            :input-id="`q-${question.id}-${index}-${column.id}`"
            :name="`${question.id}-${index}-${column.id}`"
            :answer="row[column.id] ?? ''"
            :flawed="flawed"
            :month-only="column.monthOnly"
            :label="cellLabel(index, column.label)"
            :width="width(place, column.kind)"
            @change="type(index, column.id, $event)"
          />
          <input
            v-else
            :value="row[column.id] ?? ''"
            class="field"
            :aria-label="cellLabel(index, column.label)"
            :inputmode="column.kind === 'marks' ? 'decimal' : 'text'"
            :style="{ width: width(place, column.kind) }"
            autocomplete="off"
            spellcheck="false"
            @input="type(index, column.id, ($event.target as HTMLInputElement).value)"
          >
        </td>
        <td>
          <button
            v-if="index < rows.length"
            type="button"
            class="remove"
            :aria-label="say('sheet.removeRowOf', { index: index + 1, label: question.label })"
            @click="remove(index)"
          >
            ✕
          </button>
        </td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
.rows { border-collapse: collapse; }
th { text-align: left; font-weight: 600; font-size: 14px; color: var(--ink-soft); padding: 0 8px 2px 0; }
td { padding: 2px 8px 2px 0; }
.remove { font: inherit; border: 0; background: none; color: var(--ink-soft); padding: 6px 8px; cursor: pointer; }
.remove:hover { color: var(--refusal); }
.flawed .field { border-color: var(--attention); }
@media (max-width: 900px) {
  tr { display: flex; flex-wrap: wrap; gap: 4px; border-bottom: 1px solid var(--line); padding: 4px 0; }
  thead { display: none; }
  td { padding: 0; }
}
</style>
