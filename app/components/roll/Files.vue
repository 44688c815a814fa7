<script setup lang="ts">
import type { RollDetail } from '~~/shared/rolls'

/** Pictures and papers that come with a roll: what has come, and what of it belongs to nobody. */
const { roll } = defineProps<{ roll: RollDetail, disabled: boolean, busy: boolean }>()
const emit = defineEmits<{ choose: [file: File], drop: [] }>()
const { rollFindingWords } = useWords().rolls
</script>

<template>
  <section>
    <h2 class="section-title">
      {{ say('rolls.files') }}
    </h2>
    <p class="soft small">
      {{ say('rolls.filesHelp') }}
    </p>
    <p>
      {{ say('rolls.filesHere', { count: roll.files.count }) }} <template v-if="roll.totals?.files">
        {{ say('rolls.filesPlaced', { placed: roll.totals.files.placed }) }}
      </template>
    </p>
    <p class="presses">
      <HouseFileButton
        :title="say('rolls.chooseFiles')"
        :label="say('rolls.chooseFiles')"
        accept=".zip,application/zip"
        :busy="busy || disabled"
        @choose="emit('choose', $event)"
      />
      <button
        v-if="roll.files.count > 0"
        type="button"
        class="press small"
        :disabled="busy || disabled"
        @click="emit('drop')"
      >
        {{ say('rolls.dropFiles') }}
      </button>
      <span
        v-if="busy"
        class="soft small"
        role="status"
      >{{ say('rolls.filesTaken') }}</span>
    </p>
    <template v-if="roll.files.odd > 0">
      <p class="attention">
        {{ say('rolls.filesOdd', { odd: roll.files.odd, more: roll.files.odd > roll.files.found.length ? roll.files.found.length : 0 }) }}
      </p>
      <HouseTable
        :columns="[
          { key: 'file', title: say('rolls.fileName'), look: 'path', text: file => file.name },
          { key: 'wrong', title: say('rolls.whatIsWrong') },
        ]"
        :rows="roll.files.found"
        :row-key="file => file.name"
      >
        <template #wrong="{ row: file }">
          {{ rollFindingWords(file.finding).title }} <span class="soft small">{{ rollFindingWords(file.finding).advice }}</span>
        </template>
      </HouseTable>
    </template>
  </section>
</template>

<style scoped>
section { margin-top: 18px; }
.presses { display: flex; flex-wrap: wrap; gap: 12px; align-items: center; padding: 6px 0 12px; }
:deep(.path) { overflow-wrap: anywhere; min-width: 180px; }
</style>
