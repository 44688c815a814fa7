<script setup lang="ts">
import type { SchemaNode } from '~~/core/notice/form'
import { referenceMembers } from '~~/core/notice/form'
import { pointer, valueAt } from '~~/core/notice/finding'

/**
 * A list as a table like a printed one. Rows pasted from a spreadsheet go in at the cell that has the cursor; Enter goes to the row below.
 */
const props = defineProps<{ of: SchemaNode, at: string, label: string }>()
const { draft, forms, target } = useNoticeEditor()
const { partTitle, capital } = useWords().noticeParts
const columns = computed(() => {
  const form = forms.formOf(props.of)
  return form.kind === 'parts' ? form.parts : []
})
const rows = computed(() => {
  const held = valueAt(draft.document.value, props.at)
  return Array.isArray(held) ? held as Record<string, unknown>[] : []
})
const place = (row: number, key?: string) => `${props.at}${pointer(row, ...(key === undefined ? [] : [key]))}`
const table = ref<HTMLTableElement | null>(null)
const put = (list: unknown[]) => draft.set(props.at, list)
const isNumber = (node: SchemaNode) => ['number', 'amount'].includes(forms.formOf(node).kind)

function add() {
  put([...rows.value, memberBlank(forms, props.of, rows.value.length)])
  const row = rows.value.length - 1
  void nextTick(() => focusCell(row, 0))
}
function move(i: number, by: number) {
  const list = [...rows.value]
  const [one] = list.splice(i, 1)
  if (one) list.splice(i + by, 0, one)
  put(list)
}
function focusCell(row: number, column: number) {
  table.value?.querySelectorAll('tbody tr')[row]?.querySelectorAll('td')[column]?.querySelector<HTMLElement>('input, textarea')?.focus()
}
function below(event: KeyboardEvent, row: number, column: number) {
  if (event.key !== 'Enter' || !(event.target instanceof HTMLInputElement) || event.target.getAttribute('role') === 'combobox') return
  event.preventDefault()
  if (row + 1 < rows.value.length) focusCell(row + 1, column)
  else add()
}

function paste(event: ClipboardEvent, row: number, column: number) {
  const text = event.clipboardData?.getData('text/plain') ?? ''
  if (!/[\t\n]/.test(text.trim())) return
  event.preventDefault()
  const lines = text.replace(/\r/g, '').replace(/\n$/, '').split('\n').map(line => line.split('\t'))
  const list = [...rows.value]
  lines.forEach((cells, i) => {
    const before = list[row + i] ?? memberBlank(forms, props.of, row + i) as Record<string, unknown>
    const pasted = cells.flatMap((cell, k) => {
      const part = columns.value[column + k]
      return part ? [[part.key, valueOf(part.node, cell.trim())] as const] : []
    })
    list[row + i] = { ...before, ...Object.fromEntries(pasted) }
  })
  put(list)
}
function valueOf(node: SchemaNode, text: string): unknown {
  const form = forms.formOf(node)
  const number = Number(text.replace(/\s/g, '').replace(',', '.'))
  if (form.kind === 'amount') {
    return Number.isFinite(number) && text !== ''
      ? Math.round(number * 10 ** draft.readable.value.body.currency.exponent)
      : text
  }
  if (form.kind === 'number') return Number.isFinite(number) && text !== '' ? number : text
  if (form.kind !== 'reference') return text
  return referenceMembers(draft.document.value, form.to, '').find(({ id, title }) =>
    id === text || title.toLowerCase() === text.toLowerCase()
  )?.id ?? text
}
const has = (row: Record<string, unknown>, key: string) => Object.hasOwn(row, key)
function begin(row: number, key: string, node: SchemaNode) {
  draft.set(place(row, key), forms.blankOf(node))
  target.value = place(row, key)
}
</script>

<template>
  <div class="wide">
    <table
      v-if="rows.length > 0"
      ref="table"
      class="plain-table"
      :aria-label="label"
    >
      <thead>
        <tr>
          <th
            v-for="part in columns"
            :key="part.key"
            :class="{ number: isNumber(part.node) }"
          >
            {{ capital(partTitle(part.key)) }}
          </th><th />
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="(row, r) in rows"
          :id="`place${place(r)}`"
          :key="r"
        >
          <td
            v-for="(part, c) in columns"
            :key="part.key"
            :class="{ number: isNumber(part.node), id: part.key === 'id' || part.key === 'code', title: part.key === 'title' }"
            @paste.capture="event => paste(event, r, c)"
            @keydown="event => below(event, r, c)"
          >
            <template v-if="part.required || has(row, part.key)">
              <EditValue
                :node="part.node"
                :at="place(r, part.key)"
                :label="say('edit.cell', { part: capital(partTitle(part.key)), row: r + 1 })"
                cell
              />
              <button
                v-if="!part.required"
                class="press small"
                @click="draft.set(place(r, part.key), undefined)"
              >
                {{ say('edit.takeOut') }}
              </button>
            </template>
            <button
              v-else
              class="press small"
              :aria-label="say('edit.addPart', { part: partTitle(part.key), row: r + 1 })"
              @click="begin(r, part.key, part.node)"
            >
              {{ say('edit.set') }}
            </button>
          </td>
          <td class="acts">
            <button
              v-if="r > 0"
              class="press small"
              :aria-label="say('edit.rowUp', { row: r + 1 })"
              @click="move(r, -1)"
            >
              ↑
            </button>
            <button
              class="press small"
              :aria-label="say('edit.takeOutRow', { row: r + 1 })"
              @click="put(rows.filter((_, k) => k !== r))"
            >
              ✕
            </button>
          </td>
        </tr>
      </tbody>
    </table>
    <button
      class="press small"
      @click="add"
    >
      {{ say('edit.addARow') }}
    </button>
  </div>
</template>

<style scoped>
.wide { overflow-x: auto; }
td { padding: 4px 8px 4px 0; min-width: 90px; }
td.id { max-width: 150px; }
td.title { min-width: 190px; }
td.number :deep(input) { text-align: right; }
td.number { min-width: 110px; }
td.acts { min-width: 60px; white-space: nowrap; }
td.acts button { min-width: 26px; min-height: 26px; text-align: center; }
</style>
