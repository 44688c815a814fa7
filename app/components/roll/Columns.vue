<script setup lang="ts">
import type { RollDetail } from '~~/shared/rolls'

/** Each column of a roll: its heading, what stands in its first rows, and the field of the sheet that it is. */
const { roll } = defineProps<{ roll: RollDetail, disabled: boolean }>()
const emit = defineEmits<{ change: [columns: (string | null)[]] }>()
const isList = (field: string | null) => roll.fields.find(one => one.id === field)?.isList ?? false
/** One column fills a field, but for choices, of which each may have a column of its own. */
const choose = (place: number, field: string | null) =>
  emit('change', roll.columns.map((one, i) => i === place ? field || null : one === field && !isList(field) ? null : one))
</script>

<template>
  <section>
    <h2 class="section-title">
      {{ say('rolls.columns') }}
    </h2>
    <p class="soft small">
      {{ say('rolls.columnsHelp') }}
    </p>
    <div class="wide">
      <table class="plain-table">
        <thead><tr><th>{{ say('rolls.heading') }}</th><th>{{ say('rolls.firstRows') }}</th><th>{{ say('rolls.field') }}</th></tr></thead>
        <tbody>
          <tr
            v-for="(heading, place) in roll.headings"
            :key="place"
            :class="{ out: !roll.columns[place] }"
          >
            <td>{{ heading || '–' }}</td>
            <td class="small samples">
              {{ roll.samples.map(row => row[place] || '–').join(' · ') }}
            </td>
            <td>
              <ElSelect
                :model-value="roll.columns[place] ?? ''"
                :aria-label="`${say('rolls.field')}: ${heading}`"
                :disabled="disabled"
                :empty-values="[null, undefined]"
                filterable
                style="width: 250px"
                @update:model-value="(field: string) => choose(place, field)"
              >
                <ElOption
                  value=""
                  :label="say('rolls.leftOut')"
                />
                <ElOption
                  v-for="field in roll.fields"
                  :key="field.id"
                  :value="field.id"
                  :label="field.title"
                />
              </ElSelect>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
  </section>
</template>

<style scoped>
section { margin-top: 18px; }
.wide { overflow-x: auto; }
.samples { max-width: 320px; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; color: var(--soft); }
.out td:first-child { color: var(--soft); text-decoration: line-through; }
</style>
