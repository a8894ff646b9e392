package mandala.server.session;

import java.util.List;
import java.util.Set;
import mandala.core.model.Principal;
import mandala.core.model.key.PrincipalKey;
import mandala.server.model.Departure;
import mandala.server.model.StatusListener;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Component;

/**
 * With a principal go its credentials, its sessions everywhere, and its counts of failures; lines
 * of the trail stay those of the one who was. Who left keeps no way to sign in; who is suspended
 * has no session left.
 */
@Component
class SignInDeparture implements Departure, StatusListener {

  private final JdbcTemplate database;

  SignInDeparture(JdbcTemplate database) {
    this.database = database;
  }

  @Override
  public void of(Set<PrincipalKey> gone) {
    for (PrincipalKey it : gone) {
      String key = it.value();
      endSignIn(key);
      database.update("delete from saved_view where owner = ?", key);
      database.update(
          "insert into gone_principal select ?, seq from trail_head on conflict do nothing", key);
    }
  }

  @Override
  public void changed(List<StatusChange> changes) {
    for (StatusChange it : changes) {
      String key = it.after().key().value();
      if (it.became(Principal.Status.LEFT)) {
        endSignIn(key);
      } else if (it.became(Principal.Status.SUSPENDED)) {
        endSessions(key);
      }
    }
  }

  private void endSignIn(String key) {
    endSessions(key);
    database.update("delete from credential where principal = ?", key);
    database.update(
        "delete from sign_in_throttle where id in (?, ?, ?)",
        "name:" + key,
        "code:" + key,
        "proof:" + key);
  }

  private void endSessions(String key) {
    database.update("delete from spring_session where principal_name = ?", key);
    database.update("delete from sign_in_link where principal = ?", key);
  }
}
