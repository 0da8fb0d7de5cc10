<script lang="ts">
  let dark = $state(document.documentElement.classList.contains("dark"));

  function toggle() {
    dark = document.documentElement.classList.toggle("dark");
    localStorage.setItem("theme", dark ? "dark" : "light");
  }
</script>

<button type="button" class="button" onclick={toggle} aria-pressed={dark} title="Light or dark">
  {dark ? "Light" : "Dark"}
</button>
