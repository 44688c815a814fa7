<script setup lang="ts">
import type { RollDetail, RollSettings } from '~~/shared/rolls'
import { charsets } from '~~/shared/charsets'

/** Beside a roll: how it is read, and what becomes of its rows. */
const { roll } = defineProps<{ roll: RollDetail, disabled: boolean }>()
const emit = defineEmits<{ change: [change: Partial<RollSettings>] }>()
const counts = computed(() =>
  roll.totals ? (['made', 'changed', 'repeated', 'refused'] as const).map(key => [key, roll.totals?.[key] ?? 0] as const) : []
)
</script>

<template>
  <div class="beside">
    <div class="stays">
      <slot />
      <template v-if="roll.totals">
        <h3>{{ say('rolls.whatWould', { state: roll.state }) }}</h3>
        <dl>
          <template
            v-for="[key, count] in counts"
            :key="key"
          >
            <dt>{{ say(`rolls.${key}`) }}</dt><dd :class="{ refusal: key === 'refused' && count > 0 }">
              <b>{{ countText(count) }}</b>
            </dd>
          </template>
          <dt class="soft">
            {{ say('rolls.withGaps') }}
          </dt><dd class="soft">
            {{ countText(roll.totals.gaps) }}
          </dd>
        </dl>
      </template>
      <p class="soft small">
        {{ say('rolls.sheetFirst') }}
      </p>
      <label for="roll-order">{{ say('rolls.dates') }}</label>
      <ElSelect
        id="roll-order"
        :empty-values="[null, undefined]"
        :model-value="roll.options.order ?? ''"
        :disabled="disabled"
        @update:model-value="(order: string) => emit('change', { order: order === 'day' || order === 'month' ? order : null })"
      >
        <ElOption
          value=""
          :label="say('rolls.notSaid')"
        />
        <ElOption
          value="day"
          :label="say('rolls.dayFirst')"
        />
        <ElOption
          value="month"
          :label="say('rolls.monthFirst')"
        />
      </ElSelect>
      <label for="roll-gaps">{{ say('rolls.gaps') }}</label>
      <ElSelect
        id="roll-gaps"
        :model-value="roll.options.gaps"
        :disabled="disabled"
        @update:model-value="(gaps: 'enter' | 'refuse') => emit('change', { gaps })"
      >
        <ElOption
          value="enter"
          :label="say('rolls.gapsEnter')"
        />
        <ElOption
          value="refuse"
          :label="say('rolls.gapsRefuse')"
        />
      </ElSelect>
      <template v-if="roll.format === 'csv'">
        <label for="roll-charset">{{ say('rolls.charset') }}</label>
        <ElSelect
          id="roll-charset"
          :model-value="roll.charset ?? ''"
          :disabled="disabled"
          @update:model-value="(charset: string) => emit('change', { charset })"
        >
          <ElOption
            v-for="one in charsets"
            :key="one"
            :value="one"
            :label="one"
          />
        </ElSelect>
      </template>
    </div>
  </div>
</template>

<style scoped>
.beside { padding-top: 24px !important; }
.stays { position: sticky; top: 150px; }
label { display: block; font-weight: 600; padding: 14px 0 4px; }
dl { display: grid; grid-template-columns: minmax(0, 1fr) auto; gap: 4px 12px; margin: 8px 0 16px; }
dd { margin: 0; text-align: right; }
</style>
