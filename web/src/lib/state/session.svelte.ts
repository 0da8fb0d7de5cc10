import { client, faultsOf, type Fault, type Schemas } from "../api/client";

class Session {
  user = $state<Schemas["Person"] | null>(null);
  ready = $state(false);

  async load() {
    const { data } = await client.GET("/api/session");
    this.user = data?.user ?? null;
    this.ready = true;
  }

  async signIn(username: string, password: string): Promise<Fault[]> {
    const { data, error } = await client.POST("/api/login", { body: { username, password } });
    if (data) this.user = data;
    return data ? [] : faultsOf(error);
  }

  async signOut() {
    await client.POST("/api/logout");
    this.user = null;
  }
}

export const session = new Session();
