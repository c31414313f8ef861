import { createBrowserRouter, Navigate, useParams, type RouteObject } from "react-router";
import { base } from "../api/base";
import { App } from "./App";
import { Failed } from "./Failed";
import { home, screens, type Screen } from "./screens";
import { ShownProvider } from "./shown";

const Nothing = () => null;

/** Labelled is what the code of a label opens: the page of its place, or its thing. */
function Labelled() {
  const { of, id = "" } = useParams();
  if (of === "i") return <Navigate to={`/find?on=item:${encodeURIComponent(id)}`} replace />;
  return <Navigate to={`/look?place=${encodeURIComponent(id)}`} replace />;
}

function routeOf(s: Screen): RouteObject {
  return { path: s.path, Component: s.Page ?? s.Panel ?? Nothing, ErrorBoundary: Failed };
}

/** router has a route for every screen, inside the frame that they share. */
export const router = createBrowserRouter(
  [
    { path: "/s/:of/:id", Component: Labelled, ErrorBoundary: Failed },
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
