package mandala.server.review;

import java.util.Locale;
import java.util.Objects;
import java.util.Optional;
import mandala.core.change.Removal;
import mandala.core.model.Group;
import mandala.core.model.Kind;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.BridgeKey;
import mandala.core.model.key.DelegationKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.review.ReviewItem;
import mandala.server.model.History;
import mandala.server.model.Revision;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Component;

/** Finds in the trail which revision made an item. */
@Component
class ItemOrigins {

  private final JdbcTemplate database;
  private final History history;

  ItemOrigins(JdbcTemplate database, History history) {
    this.database = database;
    this.history = history;
  }

  /** {@return the revision that made an item}, empty where that was before the trail */
  Optional<Revision> of(ReviewItem item) {
    Long revision =
        switch (item.removal()) {
          case Removal.Unassign(AssignmentKey key) -> came(Kind.ASSIGNMENTS, key.value());
          case Removal.EndBridge(BridgeKey key) -> came(Kind.BRIDGES, key.value());
          case Removal.Undelegate(DelegationKey key) -> came(Kind.DELEGATIONS, key.value());
          case Removal.DropRule(GroupKey key) -> mentioned(Kind.GROUPS, key.value(), "\"rule\"");
          case Removal.Leave(GroupKey key, Group.Member.OfPrincipal(var kind, PrincipalKey who)) ->
              mentioned(
                  Kind.GROUPS,
                  key.value(),
                  "\"" + kind.name().toLowerCase(Locale.ROOT) + ":" + who + "\"");
          case Removal.Leave(GroupKey key, Group.Member.OfGroup(GroupKey inner)) ->
              mentioned(Kind.GROUPS, key.value(), "\"group:" + inner + "\"");
          case Removal.EndGuest(PrincipalKey who, AccountKey account) -> guest(who, account);
          default -> null;
        };
    return revision == null ? Optional.empty() : history.entry(revision);
  }

  private @Nullable Long came(Kind kind, String key) {
    return first(
        "select revision from trail where kind = ? and thing = ? and act = 'changed'"
            + " and before is null order by seq desc limit 1",
        kind.field(),
        key);
  }

  /** The newest change by which a thing came to mention something. */
  private @Nullable Long mentioned(Kind kind, String key, String what) {
    return first(
        "select revision from trail where kind = ? and thing = ? and act = 'changed'"
            + " and position(? in after) > 0 and coalesce(position(? in before), 0) = 0"
            + " order by seq desc limit 1",
        kind.field(),
        key,
        what,
        what);
  }

  private @Nullable Long guest(PrincipalKey who, AccountKey account) {
    return first(
        "select revision from trail where kind = 'guests' and act = 'changed' and before is null"
            + " and position(? in after) > 0 and position(? in after) > 0"
            + " order by seq desc limit 1",
        "\"" + who + "\"",
        "\"" + account + "\"");
  }

  private @Nullable Long first(String sql, Object... parameters) {
    return database.query(sql, (row, _) -> row.getObject(1, Long.class), parameters).stream()
        .filter(Objects::nonNull)
        .findFirst()
        .orElse(null);
  }
}
