package mandala.server.session;

import java.time.Instant;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import mandala.core.model.Principal;
import mandala.core.model.key.PrincipalKey;
import mandala.server.model.Departure;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Component;

/**
 * When principals were seen last: what the model knows from elsewhere, or when they last signed in
 * or called with a token here, whichever is later. Signing in makes no revision, so it is kept
 * beside the model. Thread-safe.
 */
@Component
public class SeenTimes implements Departure {

  /** So many notes may be written at the same time: one of a lower number can come later. */
  private static final long SLACK = 200;

  private final JdbcTemplate database;
  private final Map<PrincipalKey, Instant> known = new ConcurrentHashMap<>();
  private volatile long newest;

  SeenTimes(JdbcTemplate database) {
    this.database = database;
  }

  /** Notes that somebody is here, to the second. */
  public void note(PrincipalKey who, Instant at) {
    database.update(
        "insert into seen (principal, at) values (?, ?)"
            + " on conflict (principal) do update"
            + " set at = greatest(seen.at, excluded.at), number = excluded.number",
        who.value(),
        at.truncatedTo(ChronoUnit.SECONDS).atOffset(ZoneOffset.UTC));
  }

  /** Takes up what any instance noted. */
  public void refresh() {
    database.query(
        "select principal, at, number from seen where number > ? order by number",
        row -> {
          known.merge(
              new PrincipalKey(row.getString(1)),
              row.getTimestamp(2).toInstant(),
              SeenTimes::later);
          newest = row.getLong(3);
        },
        newest - SLACK);
  }

  /** {@return when somebody was seen last, as of the last {@link #refresh}}, null where never */
  public @Nullable Instant of(Principal it) {
    Instant here = known.get(it.key());
    Instant elsewhere = it.lastSeen();
    return here == null ? elsewhere : elsewhere == null ? here : later(here, elsewhere);
  }

  private static Instant later(Instant one, Instant other) {
    return one.isAfter(other) ? one : other;
  }

  @Override
  public void of(Set<PrincipalKey> gone) {
    for (PrincipalKey it : gone) {
      database.update("delete from seen where principal = ?", it.value());
      known.remove(it);
    }
  }
}
