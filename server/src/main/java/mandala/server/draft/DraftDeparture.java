package mandala.server.draft;

import java.util.List;
import java.util.Set;
import mandala.core.model.Principal;
import mandala.core.model.key.PrincipalKey;
import mandala.server.model.Departure;
import mandala.server.model.StatusListener;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Component;

/**
 * With a principal go its drafts that are alive and its approvals; what it applied and said stays,
 * under a name that no key can be: whoever has the key later finds none of it among their own.
 */
@Component
class DraftDeparture implements Departure, StatusListener {

  private final JdbcTemplate database;

  DraftDeparture(JdbcTemplate database) {
    this.database = database;
  }

  @Override
  public void of(Set<PrincipalKey> gone) {
    for (PrincipalKey it : gone) {
      String key = it.value();
      String was = "(removed) " + key;
      database.update("delete from draft_approval where approver = ?", key);
      database.update("delete from draft_request where approver = ?", key);
      database.update(
          "update draft set state = 'discarded' where owner = ? and state in ('open', 'aside')",
          key);
      database.update("update draft set owner = ? where owner = ?", was, key);
      database.update("update draft_comment set author = ? where author = ?", was, key);
      database.update(
          "insert into draft_author select draft, ? from draft_author where author = ?"
              + " on conflict do nothing",
          was,
          key);
      database.update("delete from draft_author where author = ?", key);
    }
  }

  /** Drafts of who left can't be applied by anybody: they are discarded. */
  @Override
  public void changed(List<StatusChange> changes) {
    for (StatusChange it : changes) {
      if (it.became(Principal.Status.LEFT)) {
        database.update(
            "update draft set state = 'discarded' where owner = ? and state in ('open', 'aside')",
            it.after().key().value());
      }
    }
  }
}
