import { BrowserRouter, Navigate, Route, Routes, useParams } from "react-router";
import { base } from "../api/base";
import { App } from "./App";
import { Catch } from "./Failed";
import { home, screens } from "./screens";
import { ShownProvider } from "./shown";

const Nothing = () => null;

/** Labelled is what the code of a label opens: the page of its place, or its thing. */
function Labelled() {
  const { of, id = "" } = useParams();
  if (of === "i") return <Navigate to={`/find?on=item:${encodeURIComponent(id)}`} replace />;
  return <Navigate to={`/look?place=${encodeURIComponent(id)}`} replace />;
}

/** Routing has a route for every screen, inside the frame that they share. What fails in a screen leaves the frame standing. */
export function Routing() {
  return (
    <BrowserRouter basename={base === "" ? "/" : base}>
      <Catch>
        <Routes>
          <Route path="/s/:of/:id" element={<Labelled />} />
          <Route
            element={
              <ShownProvider>
                <App />
              </ShownProvider>
            }
          >
            {screens.map((s) => {
              const Shown = s.Page ?? s.Panel ?? Nothing;
              return (
                <Route
                  key={s.path}
                  path={s.path}
                  element={
                    <Catch key={s.path}>
                      <Shown />
                    </Catch>
                  }
                />
              );
            })}
            <Route path="*" element={<Navigate to={home.path} replace />} />
          </Route>
        </Routes>
      </Catch>
    </BrowserRouter>
  );
}
