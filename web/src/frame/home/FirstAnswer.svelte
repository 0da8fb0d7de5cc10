<script lang="ts">
  import { client, faultsOf, sentence, type Schemas } from "$lib/api/client";
  import { fixed, level, sentenceCase, signed } from "$lib/units/format";
  import { statusColour } from "$lib/ui/status";
  import StatusMark from "$lib/ui/StatusMark.svelte";
  import Miniature from "./Miniature.svelte";

  /** Whether what the questions describe would hold, before anything is made of it. */
  let { asked }: { asked: Schemas["RecipeIn"] } = $props();
  const PAUSE_MS = 250;
  let card = $state.raw<Schemas["Card"] | null>(null);
  let refused = $state("");
  let asking = $state(true);

  $effect(() => {
    const body = $state.snapshot(asked);
    asking = true;
    const left = new AbortController();
    const timer = setTimeout(async () => {
      const answer = client.POST("/api/recipes/answer", { body, signal: left.signal });
      const { data, error } = await answer.catch(() => ({ data: undefined, error: undefined }));
      if (left.signal.aborted) return;
      card = data ?? null;
      refused = error ? faultsOf(error).map(sentence).join(" ") : "";
      asking = false;
    }, PAUSE_MS);
    return () => {
      left.abort();
      clearTimeout(timer);
    };
  });
</script>

<div class="grid content-start gap-2" class:asking aria-live="polite" data-testid="first-answer">
  <span class="soft">First answer, on a hot day</span>
  {#if refused}
    <p class="fault">{refused}</p>
  {:else if card}
    <p class="status" style:color={statusColour(card.status)}>
      <StatusMark status={card.status} size={18} />
      {sentenceCase(card.status)}
    </p>
    <Miniature towers={card.towers} width={196} height={70} />
    {#if card.place}
      <dl>
        <dt>{card.place}</dt>
        <dd class="num">{signed(card.margin_k)} <span class="soft">± {fixed(card.half_k)} K</span></dd>
        <dt>Sound</dt>
        <dd class="num">{level(card.sound_dba)}</dd>
      </dl>
    {:else}<p class="soft">{card.missing}</p>{/if}
  {/if}
</div>

<style>
  .status {
    display: flex;
    align-items: center;
    gap: 8px;
    font-size: 20px;
    font-weight: 700;
  }
  dl {
    display: grid;
    grid-template-columns: 1fr auto;
    gap: 2px 10px;
  }
  dd {
    text-align: right;
  }
</style>
