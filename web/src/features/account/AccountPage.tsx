import { useQuery } from "@tanstack/react-query";
import { accountQuery } from "../../api/queries.ts";
import { Frame } from "../../app/Frame.tsx";
import { useSession } from "../../app/session.ts";
import { keepsThings } from "../../device/device.ts";
import { WithoutSignal } from "../along/WithoutSignal.tsx";
import { ChangePassword } from "./ChangePassword.tsx";
import { Devices } from "./Devices.tsx";
import { SecondFactor } from "./SecondFactor.tsx";

/** One's own account: password, second factor, and where one is signed in. */
export default function AccountPage() {
  const { me } = useSession();
  const { data, error } = useQuery(accountQuery);
  return (
    <Frame crumb="Your account" place={me.shop}>
      <main className="min-h-0 flex-1 overflow-y-auto bg-sheet px-5 py-5 md:px-7">
        <h1>{me.name}</h1>
        <p className="text-soft">
          Signs in as {me.username}.{data?.mail ? ` Mail goes to ${data.mail}.` : ""}
        </p>
        {error && <p className="note mt-2">{error.message}</p>}
        {!keepsThings() && (
          <p className="note mt-2">
            This address has no TLS. Once the page is closed this device keeps nothing; camera, Bluetooth and work
            without signal are missing, and the screen does not stay on. Whoever runs Yoshi for the shop finds the way
            in docs/operating.md.
          </p>
        )}
        {data && (
          <div className="mt-4 grid gap-x-12 gap-y-6 lg:grid-cols-2">
            <div>
              <WithoutSignal />
              <Devices account={data} />
            </div>
            <div>
              <ChangePassword account={data} />
              <SecondFactor account={data} />
            </div>
          </div>
        )}
      </main>
    </Frame>
  );
}
