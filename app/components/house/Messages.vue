<script setup lang="ts">
/** The messages of the page, over everything else, dialogs too; read aloud as they come. */
const place = useTemplateRef('place')
// What was opened last lies on top: with each message the list is opened anew, above whatever dialog has come since.
watch(messages, async (now) => {
  await nextTick()
  if (place.value?.matches(':popover-open')) place.value.hidePopover()
  if (now.length > 0) place.value?.showPopover()
})
</script>

<template>
  <div
    ref="place"
    popover="manual"
    class="messages"
  >
    <p
      v-for="message in messages"
      :key="message.id"
      class="note"
      :class="{ 'is-refusal': message.kind === 'error', 'is-settled': message.kind === 'success' }"
      :role="message.kind === 'error' ? 'alert' : 'status'"
    >
      <span>{{ message.text }}</span>
      <button
        type="button"
        class="press"
        :aria-label="say('house.close')"
        @click="untell(message.id)"
      >
        ✕
      </button>
    </p>
  </div>
</template>

<style scoped>
.messages {
  position: fixed; inset: 12px auto auto 50%; translate: -50% 0; margin: 0; padding: 0; border: 0; background: none; overflow: visible;
  width: min(640px, 94vw); color: var(--ink);
}
p {
  display: flex; gap: 12px; justify-content: space-between; align-items: baseline; margin-bottom: 8px; padding: 10px 14px;
  border: 1px solid var(--line-strong); border-left-width: 4px; overflow-wrap: anywhere;
}
.is-settled { border-color: var(--settled); background: var(--settled-soft); }
button { text-decoration: none; min-width: 24px; min-height: 24px; text-align: center; }
</style>
