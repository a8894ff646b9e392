package mandala.server.session;

import mandala.core.model.key.PrincipalKey;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Component;

/** Sessions of others: they are in the database, so that all instances see them end at once. */
@Component
public class OpenSessions {

  private final JdbcTemplate database;

  OpenSessions(JdbcTemplate database) {
    this.database = database;
  }

  /** Ends all sessions of somebody; {@return how many there were} */
  public int end(PrincipalKey of) {
    return database.update("delete from spring_session where principal_name = ?", of.value());
  }

  /** {@return how many sessions of somebody are open} */
  public int count(PrincipalKey of) {
    Integer open =
        database.queryForObject(
            "select count(*) from spring_session where principal_name = ?"
                + " and expiry_time > extract(epoch from now()) * 1000",
            Integer.class,
            of.value());
    return open == null ? 0 : open;
  }
}
