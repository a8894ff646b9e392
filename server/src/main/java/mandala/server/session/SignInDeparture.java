package mandala.server.session;

import java.util.Set;
import mandala.core.model.key.PrincipalKey;
import mandala.server.model.Departure;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Component;

/**
 * With a principal go its credentials, its sessions everywhere, and its counts of failures; lines
 * of the trail stay those of the one who was.
 */
@Component
class SignInDeparture implements Departure {

  private final JdbcTemplate database;

  SignInDeparture(JdbcTemplate database) {
    this.database = database;
  }

  @Override
  public void of(Set<PrincipalKey> gone) {
    for (PrincipalKey it : gone) {
      String key = it.value();
      database.update("delete from credential where principal = ?", key);
      database.update("delete from saved_view where owner = ?", key);
      database.update("delete from spring_session where principal_name = ?", key);
      database.update(
          "delete from sign_in_throttle where id in (?, ?, ?)",
          "name:" + key,
          "code:" + key,
          "proof:" + key);
      database.update(
          "insert into gone_principal select ?, seq from trail_head on conflict do nothing", key);
    }
  }
}
