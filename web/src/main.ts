import { mount } from "svelte";
import App from "./App.svelte";
import "./app.css";
import { keepPage } from "./kept";

mount(App, { target: document.getElementById("app")! });
keepPage();
