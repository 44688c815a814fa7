<script setup lang="ts">
import type { LineDetail } from '~~/shared/bank'

/** What the bank says of a line. */
defineProps<{ line: LineDetail }>()
const spelling = useSpelling()
</script>

<template>
  <div class="facts">
    <h2>{{ spelling.amountIn(line.amount, line.currency) }}</h2>
    <p class="soft">
      {{ line.bookedOn }} · {{ line.account }}
    </p>
    <dl>
      <dt>{{ line.amount < 0 ? say('bank.to') : say('bank.from') }}</dt>
      <dd>{{ line.name ?? say('bank.noName') }} <span class="soft small">{{ line.counterAccount }}</span></dd>
      <template v-if="line.reference">
        <dt>{{ say('bank.saysReference') }}</dt>
        <dd>{{ line.reference }}</dd>
      </template>
      <template v-if="line.text">
        <dt>{{ say('bank.saysText') }}</dt>
        <dd>{{ line.text }}</dd>
      </template>
    </dl>
  </div>
</template>

<style scoped>
.facts { border-bottom: 1px solid var(--line); padding-bottom: 12px; margin-bottom: 14px; }
h2 { font-size: 24px; }
dl { display: grid; grid-template-columns: 90px minmax(0, 1fr); gap: 4px 12px; margin: 10px 0 0; }
dt { color: var(--ink-soft); }
dd { margin: 0; overflow-wrap: anywhere; }
</style>
