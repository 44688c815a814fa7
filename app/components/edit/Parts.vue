<script setup lang="ts">
import type { Part, SchemaNode } from '~~/core/notice/form'
import { pointer, valueAt } from '~~/core/notice/finding'

/** The parts of one thing, each with its label; what may be left out is added when it is wanted. */
const props = defineProps<
  { node: SchemaNode, at: string, label: string, /** These parts alone; they head a page of their own. */ only?: readonly string[] }
>()
const { draft, forms, target } = useNoticeEditor()
const { partTitle, capital } = useWords().noticeParts
const form = computed(() => forms.formOf(props.node))
const allParts = computed(() => form.value.kind === 'parts' ? form.value.parts : [])
const parts = computed(() => props.only ? props.only.flatMap(key => allParts.value.filter(part => part.key === key)) : allParts.value)
const value = computed(() => valueAt(draft.document.value, props.at))
const has = (key: string) => typeof value.value === 'object' && value.value !== null && Object.hasOwn(value.value, key)
const shown = computed(() => parts.value.filter(part => part.required || has(part.key)))
const addable = computed(() => parts.value.filter(part => !part.required && !has(part.key)))
/** Least and most of a range stand side by side. */
const isRange = computed(() => parts.value.length === 2 && parts.value.every(({ key }) => key === 'min' || key === 'max'))
const isNested = ({ node }: Part) => {
  const { kind } = forms.formOf(node)
  return kind === 'members' || kind === 'kinds' || (kind === 'parts' && !isRangeNode(node))
}
const isRangeNode = (node: SchemaNode) => {
  const inner = forms.formOf(node)
  return inner.kind === 'parts' && inner.parts.length === 2 && inner.parts.every(({ key }) => key === 'min' || key === 'max')
}
const place = (key: string) => `${props.at}${pointer(key)}`
function add({ key, node }: Part) {
  const given = forms.resolve(node).default
  const blank = forms.blankOf(node)
  draft.set(place(key), given === undefined || Array.isArray(given) ? blank : given)
  target.value = place(key)
}
</script>

<template>
  <span
    v-if="isRange"
    class="range"
  >
    <template
      v-for="part in parts"
      :key="part.key"
    >
      <span class="soft small">{{ partTitle(part.key) }}</span>
      <EditValue
        :node="part.node"
        :at="place(part.key)"
        :label="`${label}, ${partTitle(part.key)}`"
      />
    </template>
    <EditFindings :at="at" />
  </span>
  <div v-else>
    <div
      v-for="part in shown"
      :id="`place${place(part.key)}`"
      :key="part.key"
      class="part"
      :class="{ nested: isNested(part), head: only && isNested(part) }"
    >
      <component
        :is="only && isNested(part) ? 'h2' : 'span'"
        class="name"
      >
        {{ capital(partTitle(part.key)) }}<button
          v-if="!part.required"
          class="press small away"
          :aria-label="say('edit.takeOutPart', { part: partTitle(part.key) })"
          @click="draft.set(place(part.key), undefined)"
        >{{ say('edit.takeOut') }}</button>
      </component>
      <div class="own">
        <EditValue
          :node="part.node"
          :at="place(part.key)"
          :label="capital(partTitle(part.key))"
        />
      </div>
    </div>
    <p
      v-if="addable.length > 0"
      class="add small"
    >
      <span class="soft">{{ say('edit.add') }}</span>
      <button
        v-for="part in addable"
        :key="part.key"
        class="press"
        @click="add(part)"
      >
        {{ partTitle(part.key) }}
      </button>
    </p>
    <EditFindings :at="at" />
  </div>
</template>

<style scoped>
.part { display: grid; grid-template-columns: 180px minmax(0, 1fr); gap: 2px 16px; padding: 5px 0; align-items: start; }
.part.nested { grid-template-columns: minmax(0, 1fr); }
.part.nested > .own { padding-left: 14px; border-left: 2px solid var(--line); }
.name { padding-top: 6px; font-weight: 600; font-size: 14px; display: flex; gap: 8px; justify-content: space-between; }
.nested > .name { justify-content: start; gap: 14px; }
.own { min-width: 0; }
.part.head { padding: 10px 0 18px; }
.part.head > .name { font-size: 18px; border-bottom: 1px solid var(--line); padding-bottom: 6px; margin-bottom: 4px; }
.part.head > .own { padding-left: 0; border-left: 0; }
.away { font-weight: 400; white-space: nowrap; min-height: 24px; }
.add { display: flex; flex-wrap: wrap; gap: 4px 14px; padding: 6px 0; align-items: center; }
.add button { min-height: 26px; }
.range { display: flex; flex-wrap: wrap; gap: 4px 8px; align-items: center; }
@media (max-width: 700px) { .part { grid-template-columns: minmax(0, 1fr); } }
</style>
