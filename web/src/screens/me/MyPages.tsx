// The three places of what is mine: what I did, what I can do, how I wish to be treated.
import { Link } from "react-router";
import styles from "./MyPages.module.css";

const PLACES = [
  { to: "/profile", label: "Progress" },
  { to: "/profile/bests", label: "My bests" },
  { to: "/account", label: "Settings and privacy" },
] as const;

export function MyPages({ at }: { at: (typeof PLACES)[number]["to"] }) {
  return (
    <nav className={styles.places} aria-label="About me">
      {PLACES.map((place) => (
        <Link key={place.to} to={place.to} aria-current={place.to === at ? "page" : undefined}>
          {place.label}
        </Link>
      ))}
    </nav>
  );
}
