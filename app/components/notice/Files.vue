<script setup lang="ts">
import type { Bound } from '~~/core/finding/finding'
import type { DocumentRule } from '~~/core/notice/file-rules'
import { imageKindsOf, imageRuleOf } from '~~/core/notice/image-rules'
import { portraitPreset } from '~~/core/notice/portrait-preset'
import type { Notice } from '~~/core/notice/schema'

/** What a notice asks of pictures and papers. */
const { notice } = defineProps<{ notice: Notice }>()
const { conditionWords } = useWords().conditions
const { findingWords } = useWords().findings
const { formatWords } = useWords().lists
/** Bounds of a rule, each as the finding that keeps it words it. */
const boundWords = (about: string, bounds: Partial<Record<string, Bound>>) =>
  Object.entries(bounds).flatMap(([code, bound]) => {
    if (!bound) return []
    const { title, bound: spelled } = findingWords({
      code: `${about}.${code}`,
      about,
      verdict: 'pass',
      value: 1,
      unit: code === 'bytes' ? 'bytes' : 'none',
      bound,
      parameters: {},
    })
    return [`${title.toLowerCase()} ${spelled}`]
  }).join(', ')
const documentBounds = ({ bytes, pages, pageSide, resolution, letters, blur, contrast, skew }: DocumentRule) => ({
  bytes,
  pages,
  pageSide,
  resolution,
  letters,
  blur,
  contrast,
  skew,
})
const clauses = Object.values(portraitPreset).map(({ clause }) => clause).join('; ')
const images = computed(() => imageKindsOf(notice).map(kind => ({ kind, rule: imageRuleOf(notice, kind) })))
</script>

<template>
  <div class="sheet-row head">
    <div class="body">
      <h2 class="section-title">
        {{ say('notice.images') }}
      </h2>
      <p
        v-for="{ kind, rule } in images"
        :key="kind"
      >
        <b>{{ rule.title }}</b>{{ say('notice.toKbToPxWidthTo', { formats: formatWords(rule.formats), min: (rule.bytes.min ?? 0) / 1024, max: (rule.bytes.max ?? 0) / 1024, min2: rule.width.min, min3: rule.height.min, max2: rule.width.max, max3: rule.height.max, min4: rule.aspect.min, max4: rule.aspect.max }) }}<PictureSwatches :rule="rule" /><span
          v-if="rule.face"
          class="soft small"
        ><br>{{ say('notice.face', { face: boundWords('photograph', rule.face) }) }}<template v-if="rule.preset">{{ say('notice.whereTheNoticeStatesNone', { preset: rule.preset, clauses }) }}</template><template v-if="rule.sameFace">{{ say('notice.facesAreComparedWithThoseOf') }}</template></span>
      </p>
    </div>
    <div class="beside">
      <p class="soft small">
        {{ say('notice.n1Kb1024Bytes') }}
      </p>
    </div>
  </div>
  <div
    v-if="notice.documents.length > 0"
    class="sheet-row head"
  >
    <div class="body">
      <h2 class="section-title">
        {{ say('notice.documents') }}
      </h2>
      <p
        v-for="rule in notice.documents"
        :key="rule.id"
      >
        <b>{{ rule.title }}</b>{{ rule.required ? '' : say('notice.mayFollow') }}, {{ rule.when ? say('notice.where', { when: conditionWords(notice, rule.when) }) : say('notice.ofEverybody') }}: {{ formatWords(rule.formats) }}, {{ boundWords('document', documentBounds(rule)) }}<span
          v-if="rule.shows"
          class="soft small"
        ><br>{{ rule.shows }}</span>
      </p>
    </div>
    <div class="beside">
      <p class="soft small">
        {{ say('notice.whatOfTheseIsAskedFor') }}
      </p>
    </div>
  </div>
</template>

<style scoped>
.body > p + p { margin-top: 8px; }
.body { padding-bottom: 16px !important; }
</style>
