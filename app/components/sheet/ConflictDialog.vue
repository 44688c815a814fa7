<script setup lang="ts">
import '~/words/later'
import type { AnswerDifference } from '~~/shared/applications'

/** Two people saved the same sheet: shows the difference and lets the later one choose, answer by answer. */
const props = defineProps<{ differences: AnswerDifference[] }>()
const emit = defineEmits<{ settle: [mine: Set<string>] }>()
const spelling = useSpelling()
const choice = ref<Record<string, 'mine' | 'theirs'>>({})
const clashes = computed(() => props.differences.filter(d => d.yours !== null && JSON.stringify(d.yours) !== JSON.stringify(d.theirs)))
const others = computed(() => props.differences.filter(d => !clashes.value.includes(d)))

function settle() {
  emit('settle', new Set(clashes.value.filter(d => choice.value[d.question] === 'mine').map(d => d.question)))
}
</script>

<template>
  <ElDialog
    :model-value="true"
    :title="say('parts.somebodyElseSavedThisSheetMeanwhile')"
    width="min(760px, 96vw)"
    :close-on-click-modal="false"
    :close-on-press-escape="false"
    :show-close="false"
  >
    <p>{{ say('parts.nothingOfYoursIsLostChoose', { hasClashes: String(clashes.length > 0) }) }}</p>
    <table class="plain-table">
      <thead><tr><th>{{ say('parts.question') }}</th><th>{{ say('parts.theirs') }}</th><th>{{ say('parts.yours') }}</th></tr></thead>
      <tbody>
        <tr
          v-for="d in clashes"
          :key="d.question"
        >
          <td>{{ spelling.item(d.question) }}</td>
          <td>
            <ElRadio
              v-model="choice[d.question]"
              value="theirs"
            >
              {{ spelling.answer(d.question, d.theirs) }}
            </ElRadio>
            <div class="soft small">
              {{ d.by }}, {{ spelling.instant(d.at) }}
            </div>
          </td>
          <td>
            <ElRadio
              v-model="choice[d.question]"
              value="mine"
            >
              {{ spelling.answer(d.question, d.yours ?? '') }}
            </ElRadio>
          </td>
        </tr>
        <tr
          v-for="d in others"
          :key="d.question"
        >
          <td>{{ spelling.item(d.question) }}</td>
          <td>
            {{ spelling.answer(d.question, d.theirs) }}
            <div class="soft small">
              {{ d.by }}, {{ spelling.instant(d.at) }}
            </div>
          </td>
          <td class="soft">
            {{ say('parts.notChanged') }}
          </td>
        </tr>
      </tbody>
    </table>
    <template #footer>
      <HouseButton
        primary
        :disabled="clashes.some(d => !choice[d.question])"
        @click="settle"
      >
        {{ say('parts.goOnWithThis') }}
      </HouseButton>
    </template>
  </ElDialog>
</template>
