<script setup lang="ts">
/** Who did what to one application, newest first, with the values before and after. */
defineProps<{ history: { at: string, actor: string, action: string, before: unknown, after: unknown }[] }>()
const { instant } = useSpelling()

function changes(before: unknown, after: unknown): string {
  const entries = (value: unknown) => typeof value === 'object' && value !== null ? Object.entries(value) : []
  const old = new Map(entries(before))
  return entries(after).filter(([, value]) => typeof value !== 'object' || Array.isArray(value)).filter(([key, value]) => JSON.stringify(old.get(key)) !== JSON.stringify(value)).slice(0, 6)
    .map(([key, value]) => old.has(key) && old.get(key) !== null ? `${key}: ${String(old.get(key))} → ${String(value)}` : `${key}: ${Array.isArray(value) ? `${value.length} entries` : String(value)}`).join(' · ')
}
</script>

<template>
  <ol>
    <li
      v-for="(event, i) in history"
      :key="i"
    >
      <span class="soft small nowrap">{{ instant(event.at) }}</span>
      <span><b>{{ event.action }}</b> <span class="soft">by {{ event.actor }}</span>
        <span class="soft small block">{{ changes(event.before, event.after) }}</span></span>
    </li>
  </ol>
</template>

<style scoped>
ol { list-style: none; margin: 0; padding: 0; }
li { display: grid; grid-template-columns: 172px minmax(0, 1fr); gap: 12px; padding: 5px 0; border-bottom: 1px solid var(--line); }
.block { display: block; overflow-wrap: anywhere; }
</style>
