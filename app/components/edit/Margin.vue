<script setup lang="ts">
import { isError, stepsOf, type NoticeFinding } from '~~/core/notice/finding'
import { groupOf, type NoticeGroup } from '~~/core/notice/form'

/** What is found in the draft: in the part that is open first, then elsewhere; each line leads to its place. */
const props = defineProps<{ group: NoticeGroup }>()
const emit = defineEmits<{ jump: [at: string] }>()
const { draft } = useNoticeEditor()
const { noticeFindingWords, placeWords } = useWords().notices
const shownAtMost = 30
const sorted = computed(() => [...draft.findings.value].sort((a, b) => Number(isError(b)) - Number(isError(a))))
const isHere = (finding: NoticeFinding) => groupOf(stepsOf(finding.at)[0] ?? '') === props.group
const lists = computed(() => [
  { key: 'here', title: say('edit.whatIsFound'), all: sorted.value.filter(isHere) },
  { key: 'elsewhere', title: say('edit.inOtherParts'), all: sorted.value.filter(finding => !isHere(finding)) },
])
const errors = computed(() => draft.findings.value.filter(isError).length)
</script>

<template>
  <aside aria-live="off">
    <p class="counts">
      <b :class="errors > 0 ? 'refusal' : 'settled'">{{ say('edit.errors', { n: errors }) }}</b>, {{ say('edit.warnings', { n: draft.findings.value.length - errors }) }}
    </p>
    <p
      v-if="draft.findings.value.length === 0"
      class="soft small"
    >
      {{ say('edit.nothingIsFound') }}
    </p>
    <p
      v-else-if="errors > 0"
      class="soft small"
    >
      {{ say('edit.firstMendErrors') }}
    </p>
    <template
      v-for="list in lists"
      :key="list.key"
    >
      <h2 v-if="list.all.length > 0">
        {{ list.title }}
      </h2>
      <ul v-if="list.all.length > 0">
        <li
          v-for="(finding, i) in list.all.slice(0, shownAtMost)"
          :key="i"
          :class="isError(finding) ? 'is-refusal' : 'is-attention'"
          class="note small"
        >
          <button
            class="press"
            @click="emit('jump', finding.at)"
          >
            {{ placeWords(draft.document.value, finding.at) }}
          </button><br>{{ noticeFindingWords(draft.readable.value, finding) }}
        </li>
      </ul>
      <p
        v-if="list.all.length > shownAtMost"
        class="soft small"
      >
        {{ say('edit.andMore', { n: list.all.length - shownAtMost }) }}
      </p>
    </template>
  </aside>
</template>

<style scoped>
aside {
  padding: 14px 20px; border-left: 1px solid var(--line); background: var(--paper); position: sticky; top: calc(var(--below-top) + 58px);
  max-height: calc(100vh - var(--below-top) - 58px); overflow-y: auto; min-height: 70vh;
}
.counts { padding-bottom: 4px; }
h2 { font-size: 15px; margin: 14px 0 6px; }
ul { list-style: none; margin: 0; padding: 0; display: grid; gap: 6px; }
li { overflow-wrap: anywhere; }
@media (max-width: 1000px) { aside { position: static; max-height: none; border-left: 0; min-height: 0; } }
</style>
