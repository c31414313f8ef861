import { createBrowserRouter, Navigate, type RouteObject } from "react-router";
import { base } from "../api/base";
import { App } from "./App";
import { Failed } from "./Failed";
import { home, screens, type Screen } from "./screens";
import { ShownProvider } from "./shown";

const Nothing = () => null;

function routeOf(s: Screen): RouteObject {
  return { path: s.path, Component: s.Page ?? s.Panel ?? Nothing, ErrorBoundary: Failed };
}

/** router has a route for every screen, inside the frame that they share. */
export const router = createBrowserRouter(
  [
    {
      element: (
        <ShownProvider>
          <App />
        </ShownProvider>
      ),
      ErrorBoundary: Failed,
      children: [...screens.map(routeOf), { path: "*", element: <Navigate to={home.path} replace /> }],
    },
  ],
  { basename: base === "" ? "/" : base },
);
