<script setup lang="ts">
import type { Channel } from '~~/core/identity/address'

/** The address by which somebody is to come in. */
const access = defineModel<{ channel: Channel, address: string }>({ required: true })
</script>

<template>
  <div class="access">
    <FieldChoice
      :model-value="access.channel"
      :options="[{ id: 'email', title: say('own.byEmail') }, { id: 'mobile', title: say('own.byMobile') }]"
      :label="say('account.newAddress')"
      @update:model-value="access = { ...access, channel: $event as Channel }"
    />
    <label for="access-address">{{ access.channel === 'email' ? say('own.email') : say('own.mobile') }}</label>
    <input
      id="access-address"
      class="field"
      :value="access.address"
      autocomplete="off"
      @input="access = { ...access, address: ($event.target as HTMLInputElement).value }"
    >
    <p class="soft small">
      {{ say('account.accessHelp') }}
    </p>
  </div>
</template>

<style scoped>
.access { display: grid; gap: 6px; padding: 4px 0 10px; }
label { font-weight: 600; }
</style>
