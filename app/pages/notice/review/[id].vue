<script setup lang="ts">
import { headlineShapes, verdictShapes } from '~~/core/words/en/work'
import { postVerdictWords } from '~~/core/words/en/explanation'
import type { Headline } from '~~/core/application/tracks'
import type { ReviewDetail } from '~~/shared/eligibility'

/** What a review would change, verdict by verdict, before anybody accepts it. */
const route = useRoute()
const cycle = useCycleStore()
const session = useSessionStore()
const spelling = useSpelling()
const id = String(route.params.id)
const review = shallowRef<ReviewDetail | null>(null)
const rows = shallowRef<ReviewDetail['differences']>([])
const only = ref<'all' | 'chosen'>('all')
const post = ref('')
const busy = ref(false)
useHead({ title: () => `Review ${review.value?.serial ?? ''} · Lucid Roster` })

async function load(after?: string) {
  const page = await callApi<ReviewDetail>(`/api/reviews/${id}`, { query: { after, post: post.value || undefined, chosen: only.value === 'chosen' ? 'yes' : undefined } })
  rows.value = after ? [...rows.value, ...page.differences] : page.differences
  review.value = page
}
async function settle(act: 'accept' | 'discard') {
  busy.value = true
  await attempt(async () => {
    const done = await callApi<{ leftOut: number, sentBack: number } | null>(`/api/reviews/${id}/${act}`, { method: 'POST' })
    if (done) ElMessage({ message: `Accepted. ${done.sentBack} accepted applications are back in scrutiny${done.leftOut > 0 ? `; ${done.leftOut} were changed meanwhile and left out: judge all again` : ''}.`, type: 'success', duration: 8000 })
    await cycle.load(true)
    await load()
  })
  busy.value = false
}
watch([only, post], () => { attempt(load) })
const { failure } = useLoaded(async () => {
  await load()
})
</script>

<template>
  <p
    v-if="failure"
    class="page note is-refusal"
  >
    {{ failure }} <NuxtLink to="/notice">To the notice</NuxtLink>
  </p>
  <template v-else-if="review">
    <div class="sheet-row grow">
      <div class="body">
        <h1>Review {{ review.serial }}: {{ review.version === review.baseVersion ? 'all judged again' : `version ${review.version} proposed` }}</h1>
        <p class="soft">
          Against version {{ review.baseVersion }} · by {{ review.by }}, {{ spelling.instant(review.at) }}
        </p>
        <div
          v-if="review.amendments.length > 0"
          class="note amendments"
        >
          <p
            v-for="line in review.amendments"
            :key="line"
          >
            {{ line }}
          </p>
        </div>
        <div class="filters">
          <ElRadioGroup
            v-model="only"
            aria-label="Which differences"
          >
            <ElRadio value="all">
              All differences
            </ElRadio>
            <ElRadio value="chosen">
              Posts applied for
            </ElRadio>
          </ElRadioGroup>
          <ElSelect
            v-model="post"
            aria-label="Post"
            clearable
            placeholder="All posts"
            style="width: 200px"
          >
            <ElOption
              v-for="one in cycle.notice?.posts ?? []"
              :key="one.id"
              :value="one.id"
              :label="one.title"
            />
          </ElSelect>
        </div>
        <table
          v-if="rows.length > 0"
          class="plain-table"
        >
          <thead><tr><th>Application</th><th>Name</th><th>Post</th><th>Before</th><th>After</th><th>Clause</th><th>Stands at</th></tr></thead>
          <tbody>
            <tr
              v-for="row in rows"
              :key="row.number + row.post"
            >
              <td><NuxtLink :to="`/scrutiny/${row.applicationId}`">{{ row.number }}</NuxtLink></td><td>{{ row.name }}</td>
              <td>
                {{ row.postTitle }}<span
                  v-if="row.chosen"
                  class="soft small"
                > · applied for</span>
              </td>
              <td class="nowrap">
                {{ verdictShapes[row.before] }} {{ postVerdictWords[row.before] }}
              </td>
              <td
                class="nowrap"
                :class="{ pass: 'settled', fail: 'refusal', unsure: 'attention' }[row.after]"
              >
                {{ verdictShapes[row.after] }} {{ postVerdictWords[row.after] }}
              </td>
              <td>{{ row.clauses || '–' }}</td>
              <td class="nowrap">
                {{ headlineShapes[row.headline as Headline] }} {{ row.headline }}
              </td>
            </tr>
          </tbody>
        </table>
        <p
          v-else
          class="soft"
        >
          {{ review.state === 'running' ? 'The list is being made.' : 'No verdict differs here.' }}
        </p>
        <ElButton
          v-if="review.next"
          @click="attempt(() => load(review?.next ?? undefined))"
        >
          More
        </ElButton>
      </div>
      <div class="beside counts">
        <h3>What was looked at</h3>
        <dl>
          <dt>Applications</dt><dd>{{ review.totals.applications.toLocaleString('en-GB') }}</dd>
          <dt>Verdicts made anew</dt><dd>{{ review.totals.judged.toLocaleString('en-GB') }}</dd>
          <dt>Verdicts kept: same facts, same rules</dt><dd>{{ review.totals.kept.toLocaleString('en-GB') }}</dd>
          <dt>Verdicts that differ</dt><dd><b>{{ review.totals.differences.toLocaleString('en-GB') }}</b></dd>
          <dt>of them on posts applied for</dt><dd><b>{{ review.totals.chosen.toLocaleString('en-GB') }}</b></dd>
        </dl>
        <p class="soft small">
          Accepting puts these verdicts{{ review.version === review.baseVersion ? '' : ' and the proposed notice' }} in force. Accepted applications whose chosen post is no longer open go back to scrutiny. Published seats are not touched.
        </p>
      </div>
    </div>
    <div class="action-bar">
      <span v-if="review.state === 'accepted' || review.state === 'discarded'"><b>{{ review.state === 'accepted' ? '✓ Accepted' : '– Laid aside' }}</b><span
        v-if="review.settledBy"
        class="soft"
      > by {{ review.settledBy }}, {{ review.settledAt ? spelling.instant(review.settledAt) : '' }}</span></span>
      <template v-else-if="session.may('notice.amend')">
        <ElButton
          class="push"
          :disabled="busy"
          @click="settle('discard')"
        >
          Lay aside
        </ElButton>
        <ElButton
          type="primary"
          :disabled="review.state !== 'listed'"
          :loading="busy"
          @click="settle('accept')"
        >
          Accept {{ review.totals.differences }} {{ review.totals.differences === 1 ? 'change' : 'changes' }}
        </ElButton>
      </template>
    </div>
  </template>
</template>

<style scoped>
.grow { flex: 1; }
.body { padding-top: 18px !important; padding-bottom: 24px !important; }
.amendments { margin: 12px 0; }
.filters { display: flex; flex-wrap: wrap; gap: 8px 24px; padding: 12px 0; align-items: center; }
.counts { padding-top: 20px !important; }
dl { display: grid; grid-template-columns: minmax(0, 1fr) auto; gap: 4px 12px; margin: 8px 0 16px; }
dd { margin: 0; text-align: right; }
</style>
