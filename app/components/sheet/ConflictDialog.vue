<script setup lang="ts">
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
    title="Somebody else saved this sheet meanwhile"
    width="min(760px, 96vw)"
    :close-on-click-modal="false"
    :close-on-press-escape="false"
    :show-close="false"
  >
    <p>Nothing of yours is lost. {{ clashes.length > 0 ? 'Choose which answer stands:' : 'You changed other answers, so both stand. This is what the other person changed:' }}</p>
    <table class="plain-table">
      <thead><tr><th>Question</th><th>Theirs</th><th>Yours</th></tr></thead>
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
            not changed
          </td>
        </tr>
      </tbody>
    </table>
    <template #footer>
      <ElButton
        type="primary"
        :disabled="clashes.some(d => !choice[d.question])"
        @click="settle"
      >
        Go on with this
      </ElButton>
    </template>
  </ElDialog>
</template>
