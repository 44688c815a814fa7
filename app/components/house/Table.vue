<script setup lang="ts" generic="Row, Key extends string">
import { useVirtualizer, useWindowVirtualizer } from '@tanstack/vue-virtual'
import type { Column } from '~/composables/table'

/**
 * A table of the office. Of a long one only the rows in sight are drawn, however many have been read; a short one is drawn whole, so that
 * the browser finds and prints all of it.
 */
const {
  columns,
  rows,
  rowKey,
  name = undefined,
  groupOf = undefined,
  rowLook = undefined,
  opens = false,
  within = undefined,
  sortedBy = undefined,
} = defineProps<{
  columns: readonly Column<Row, Key>[],
  rows: readonly Row[],
  rowKey: (row: Row) => string | number,
  /** What the table is called where it is read aloud. */
  name?: string,
  /** A heading stands above the first row of each group, which follow each other. */
  groupOf?: (row: Row) => string,
  rowLook?: (row: Row) => string,
  /** A press anywhere on a row opens it; a link in the row does the same for the keyboard. */
  opens?: boolean,
  /** What it is scrolled within, where that is not the page. */
  within?: HTMLElement | null,
  /** The column by which the rows are sorted. */
  sortedBy?: Key,
}>()
const emit = defineEmits<{ open: [row: Row], sort: [by: Key] }>()
defineSlots<{ [cell in Key]?: (scope: { row: Row }) => unknown } & { end?: () => unknown }>()

/** From so many rows on, those out of sight are left out. */
const longFrom = 200
const table = useTemplateRef('table')
const isLong = computed(() => within !== undefined || rows.length > longFrom)
const asked = () => ({
  count: isLong.value ? rows.length : 0,
  estimateSize: () => 38,
  overscan: 12,
  getItemKey: (index: number) => {
    const row = rows[index]
    return row === undefined ? index : rowKey(row)
  },
})
/** How far down the page the table begins, in px; looked at anew whenever rows come. */
const begins = () => (table.value?.getBoundingClientRect().top ?? 0) + window.scrollY
const seen = within === undefined
  ? useWindowVirtualizer(computed(() => ({ ...asked(), scrollMargin: begins() })))
  : useVirtualizer(computed(() => ({ ...asked(), getScrollElement: () => within })))
const inSight = computed(() =>
  isLong.value
    ? seen.value.getVirtualItems().flatMap(({ index }) => rows.slice(index, index + 1).map(row => ({ row, index })))
    : rows.map((row, index) => ({ row, index }))
)
/** Heights that stand for the rows left out above and below, in px. */
const left = computed(() => {
  const items = isLong.value ? seen.value.getVirtualItems() : []
  const [first, last] = [items[0], items.at(-1)]
  if (!first || !last) return { above: 0, below: 0 }
  const margin = seen.value.options.scrollMargin
  return { above: first.start - margin, below: seen.value.getTotalSize() - (last.end - margin) }
})
const measure = (row: unknown) => {
  if (isLong.value && row instanceof Element) seen.value.measureElement(row)
}

const looks = ({ kind, look }: Column<Row, Key>, row?: Row) => [
  kind === 'line' ? 'nowrap' : kind,
  row === undefined ? undefined : typeof look === 'function' ? look(row) : look,
]
const groupAt = (index: number) => {
  const [before, row] = [rows[index - 1], rows[index]]
  if (!groupOf || row === undefined) return null
  return before !== undefined && groupOf(before) === groupOf(row) ? null : groupOf(row)
}
</script>

<template>
  <table
    ref="table"
    class="plain-table"
    :aria-label="name"
    :aria-rowcount="isLong ? rows.length + 1 : undefined"
  >
    <thead v-if="columns.some(column => column.title)">
      <tr>
        <th
          v-for="column in columns"
          :key="column.key"
          scope="col"
          :class="looks(column)"
          :aria-sort="column.key === sortedBy ? 'ascending' : undefined"
        >
          <button
            v-if="column.sort"
            type="button"
            class="sort"
            @click="emit('sort', column.key)"
          >
            {{ column.title }} {{ column.key === sortedBy ? '▾' : '' }}
          </button>
          <span
            v-else
            :class="{ 'visually-hidden': column.isQuiet }"
          >{{ column.title }}</span>
        </th>
      </tr>
    </thead>
    <tbody>
      <tr
        v-if="left.above > 0"
        :style="{ height: `${left.above}px` }"
      />
      <template
        v-for="{ row, index } in inSight"
        :key="rowKey(row)"
      >
        <tr v-if="groupAt(index)">
          <th
            scope="rowgroup"
            :colspan="columns.length"
          >
            {{ groupAt(index) }}
          </th>
        </tr>
        <tr
          :ref="measure"
          :data-index="index"
          :aria-rowindex="isLong ? index + 2 : undefined"
          :class="[rowLook?.(row), { opens }]"
          @click="opens && emit('open', row)"
        >
          <td
            v-for="column in columns"
            :key="column.key"
            :class="looks(column, row)"
          >
            <slot
              :name="column.key"
              :row="row"
            >
              {{ column.text?.(row) }}
            </slot>
          </td>
        </tr>
      </template>
      <tr
        v-if="left.below > 0"
        :style="{ height: `${left.below}px` }"
      />
    </tbody>
    <tfoot v-if="$slots.end">
      <slot name="end" />
    </tfoot>
  </table>
</template>

<style scoped>
.sort { font: inherit; color: inherit; background: none; border: 0; padding: 0; cursor: pointer; }
.opens { cursor: pointer; }
.opens:hover { background: var(--accent-soft); }
</style>
