<script setup lang="ts">
import type { SchemaNode } from '~~/core/notice/form'
import { valueAt } from '~~/core/notice/finding'
import { ruleSchema } from '~~/core/notice/rules'

/** A value of several kinds: its kind, then what that kind asks for. What both kinds have stays when the kind changes. */
const props = defineProps<{ node: SchemaNode, at: string, label: string }>()
const { draft, forms } = useNoticeEditor()
const { valueTitle } = useWords().noticeParts
const { ruleWords } = useWords().rules
const form = computed(() => forms.formOf(props.node))
const kinds = computed(() => form.value.kind === 'kinds' ? form.value.kinds : [])
const value = computed(() => valueAt(draft.document.value, props.at))
const kind = computed(() =>
  typeof value.value === 'object' && value.value !== null && 'kind' in value.value ? String(value.value.kind) : ''
)
const own = computed(() => kinds.value.find(one => one.kind === kind.value)?.node)
/** The rule in words, as soon as it can be read. */
const words = computed(() => {
  if (form.value.kind !== 'kinds' || !form.value.isRule) return ''
  const read = ruleSchema.safeParse(value.value)
  return read.success ? ruleWords(draft.readable.value, read.data) : ''
})

function choose(next: string) {
  const node = kinds.value.find(one => one.kind === next)?.node
  if (!node) return
  const known = forms.resolve(node).properties ?? {}
  const kept = Object.entries(value.value ?? {}).filter(([key]) => key !== 'kind' && Object.hasOwn(known, key))
  draft.set(props.at, { ...forms.blankOf(node) as object, ...Object.fromEntries(kept), kind: next })
}
</script>

<template>
  <div>
    <ElSelect
      :model-value="kind"
      :aria-label="say('edit.kindOf', { what: label })"
      style="max-width: 320px"
      @update:model-value="choose"
    >
      <ElOption
        v-for="one in kinds"
        :key="one.kind"
        :value="one.kind"
        :label="valueTitle(one.kind)"
      />
    </ElSelect>
    <p
      v-if="words"
      class="note small words"
    >
      {{ say('edit.carriesOut', { rule: words }) }}
    </p>
    <EditParts
      v-if="own"
      :node="own"
      :at="at"
      :label="label"
    />
  </div>
</template>

<style scoped>
.words { margin: 6px 0; }
</style>
