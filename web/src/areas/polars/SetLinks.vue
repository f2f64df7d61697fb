<script setup lang="ts">
/** Export and import of a set of runs. */
</script>

<template><span /></template>
