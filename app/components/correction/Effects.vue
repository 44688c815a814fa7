<script setup lang="ts">
import '~/words/later'
import type { CorrectionView } from '~~/shared/corrections'

/** What a correction changes: old and new side by side, and what follows for posts, fee, seat and card. */
const props = defineProps<{ view: CorrectionView, /** Where the files of a correction may be opened. */ seesFiles?: boolean }>()
const spelling = useSpelling()
const files = computed(() => Object.entries(props.view.files).flatMap(([slot, file]) => file ? [{ slot, file }] : []))
const fee = computed(() => props.view.effects?.fee)
const isPast = computed(() => props.view.state === 'accepted')
</script>

<template>
  <table
    v-if="view.changes.length + files.length > 0"
    class="plain-table"
  >
    <thead>
      <tr><th>{{ say('correction.item') }}</th><th>{{ say('correction.before') }}</th><th>{{ say('correction.after') }}</th></tr>
    </thead>
    <tbody>
      <tr
        v-for="change in view.changes"
        :key="change.item"
      >
        <th scope="row">
          {{ spelling.item(change.item) }}
        </th>
        <td>{{ spelling.answer(change.item, change.before) }}</td>
        <td class="fresh">
          {{ spelling.answer(change.item, change.after) }}
        </td>
      </tr>
      <tr
        v-for="{ slot, file } in files"
        :key="slot"
      >
        <th scope="row">
          {{ spelling.item(slot) }}
        </th>
        <td />
        <td class="fresh">
          <a
            v-if="seesFiles && file.measured"
            :href="`/api/images/${file.id}`"
            target="_blank"
          ><img
            :src="`/api/images/${file.id}`"
            :alt="spelling.item(slot)"
          ></a>
          <span class="small">{{ say('correction.newFile', { version: file.version, bytes: (file.bytes / 1024).toFixed(0) }) }}</span>
        </td>
      </tr>
    </tbody>
  </table>
  <p
    v-else
    class="soft"
  >
    {{ say('correction.noEffects') }}
  </p>
  <ul v-if="view.effects && (view.changes.length + files.length > 0)">
    <li
      v-for="verdict in view.effects.verdicts"
      :key="verdict.post"
      :class="{ refusal: verdict.isChosen && verdict.after === 'fail' }"
    >
      {{ say('correction.verdictChanges', { ...verdict, isChosen: String(verdict.isChosen) }) }}
    </li>
    <li v-if="fee && fee.after !== null">
      {{ fee.before === fee.after || fee.before === null ? say('correction.feeSame', { after: spelling.amount(fee.after) })
        : say('correction.feeChanges', { before: spelling.amount(fee.before), after: spelling.amount(fee.after), hasCharge: String(fee.charge > 0), charge: spelling.amount(fee.charge) }) }}
    </li>
    <li v-if="view.effects.seat === 'kept'">
      {{ say('correction.seatKept') }}
    </li>
    <li
      v-else-if="view.effects.seat === 'given up'"
      class="attention"
    >
      {{ say('correction.seatGone', { why: view.effects.seatWhy ?? '' }) }}
    </li>
    <li
      v-if="view.effects.card === 'made anew'"
      class="attention"
    >
      {{ view.effects.seat === 'given up' ? say('correction.cardGone') : say('correction.cardAnew') }}
    </li>
    <li
      v-else-if="view.effects.card === 'void'"
      class="attention"
    >
      {{ say('correction.cardWaits') }}
    </li>
    <li v-else-if="view.effects.card === 'as it is'">
      {{ say('correction.cardSame') }}
    </li>
  </ul>
  <p
    v-if="view.lacks.length > 0 && !isPast"
    class="attention small"
  >
    {{ say('correction.stillLacks', { titles: view.lacks.join(', ') }) }}
  </p>
</template>

<style scoped>
th[scope] { font-weight: 400; color: var(--ink-soft); border-bottom: 1px solid var(--line); width: 28%; }
td { overflow-wrap: anywhere; }
.fresh { background: var(--attention-soft); padding-left: 8px; }
ul { margin: 8px 0; padding-left: 20px; }
img { display: block; max-width: 120px; max-height: 120px; }
</style>
