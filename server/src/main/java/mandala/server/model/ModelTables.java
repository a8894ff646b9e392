package mandala.server.model;

import jakarta.persistence.EntityManager;
import jakarta.persistence.Table;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Set;
import java.util.function.ObjIntConsumer;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import mandala.core.change.Change;
import mandala.core.model.AccessModel;
import mandala.core.model.Account;
import mandala.core.model.Activation;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Delegation;
import mandala.core.model.Exclusion;
import mandala.core.model.Expectation;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.Kind;
import mandala.core.model.Pattern;
import mandala.core.model.Permission;
import mandala.core.model.PermissionSet;
import mandala.core.model.Principal;
import mandala.core.model.Resource;
import mandala.core.model.ResourceCollection;
import mandala.core.model.ResourceType;
import mandala.core.model.Role;
import mandala.core.model.Thing;
import mandala.core.model.Unit;
import org.hibernate.Session;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Repository;

/** The model's tables: read and replaced whole, or thing by thing. */
@Repository
class ModelTables {

  /** The rows of a kind. */
  private static Class<? extends ModelRow> rows(Kind kind) {
    return switch (kind) {
      case ACCOUNTS -> AccountRow.class;
      case UNITS -> UnitRow.class;
      case PATTERNS -> PatternRow.class;
      case PRINCIPALS -> PrincipalRow.class;
      case GUESTS -> GuestRow.class;
      case GROUPS -> GroupRow.class;
      case RESOURCE_TYPES -> ResourceTypeRow.class;
      case PERMISSIONS -> PermissionRow.class;
      case PERMISSION_SETS -> PermissionSetRow.class;
      case ROLES -> RoleRow.class;
      case RESOURCES -> ResourceRow.class;
      case COLLECTIONS -> ResourceCollectionRow.class;
      case ASSIGNMENTS -> AssignmentRow.class;
      case ACTIVATIONS -> ActivationRow.class;
      case BRIDGES -> BridgeRow.class;
      case DELEGATIONS -> DelegationRow.class;
      case EXCLUSIONS -> ExclusionRow.class;
      case EXPECTATIONS -> ExpectationRow.class;
    };
  }

  /** {@return the names of the tables} */
  static Set<String> names() {
    return Arrays.stream(Kind.values())
        .map(it -> rows(it).getAnnotation(Table.class).name())
        .collect(Collectors.toUnmodifiableSet());
  }

  private static final int BATCH = 500;
  private static final int FETCH = 5_000;

  private final EntityManager entities;

  ModelTables(EntityManager entities) {
    this.entities = entities;
  }

  /**
   * {@return the model in the tables}, in the canonical order; rows come a few thousand at a time
   *
   * @param progress told how many kinds are read, of how many
   */
  AccessModel read(ObjIntConsumer<Kind> progress) {
    AccessModel.Builder model = AccessModel.builder();
    Shared shared = new Shared();
    try (StatelessSession session = stateless()) {
      for (Kind kind : Kind.values()) {
        progress.accept(kind, Kind.values().length);
        read(session, rows(kind), model, shared);
      }
    }
    return model.build().sorted();
  }

  private static <R extends ModelRow> void read(
      StatelessSession session, Class<R> rows, AccessModel.Builder model, Shared shared) {
    try (Stream<R> stream =
        session
            .createSelectionQuery("from " + rows.getSimpleName(), rows)
            .setFetchSize(FETCH)
            .getResultStream()) {
      stream.forEach(row -> model.add(shared.of(row.thing())));
    }
  }

  /** {@return what the tables hold of these}; what they lack is no more */
  List<Thing> read(List<Touch> touches) {
    List<Thing> things = new ArrayList<>();
    try (StatelessSession session = stateless()) {
      for (Kind kind : Kind.values()) {
        List<String> keys =
            touches.stream().filter(it -> it.kind() == kind).map(Touch::key).toList();
        if (!keys.isEmpty()) {
          session
              .createSelectionQuery(
                  "from " + rows(kind).getSimpleName() + " where " + field(kind) + " in :keys",
                  rows(kind))
              .setParameter("keys", keys)
              .getResultList()
              .forEach(row -> things.add(row.thing()));
        }
      }
    }
    return things;
  }

  private static String field(Kind kind) {
    return kind == Kind.GUESTS || kind == Kind.ACTIVATIONS ? "principal" : "key";
  }

  /** Writes changes, within the running transaction. */
  void write(List<Change> changes) {
    try (StatelessSession session = stateless()) {
      for (Change change : changes) {
        switch (change) {
          case Change.Added(Thing thing) -> session.insert(row(thing));
          case Change.Altered(Thing before, Thing after) -> {
            if (after.key() == null) {
              remove(session, before);
              session.insert(row(after));
            } else {
              session.update(row(after));
            }
          }
          case Change.Removed(Thing thing) -> remove(session, thing);
        }
      }
    }
  }

  private static void remove(StatelessSession session, Thing thing) {
    if (thing.key() != null) {
      session.delete(row(thing));
      return;
    }
    String principal =
        switch (thing) {
          case Guest it -> it.principal().value();
          case Activation it -> it.principal().value();
          default -> throw new IllegalStateException("Impossible state: a keyless " + thing);
        };
    Class<? extends ModelRow> rows = rows(Kind.of(thing));
    session
        .createSelectionQuery("from " + rows.getSimpleName() + " where principal = :key", rows)
        .setParameter("key", principal)
        .getResultStream()
        .filter(row -> row.thing().equals(thing))
        .findFirst()
        .ifPresent(session::delete);
  }

  /** Empties the tables and writes a model into them, within the running transaction. */
  void replace(AccessModel model) {
    try (StatelessSession session = stateless()) {
      for (Kind kind : Kind.values()) {
        session.createMutationQuery("delete from " + rows(kind).getSimpleName()).executeUpdate();
      }
      session.setJdbcBatchSize(BATCH);
      for (Kind kind : Kind.values()) {
        session.insertMultiple(model.things(kind).stream().map(ModelTables::row).toList());
      }
    }
  }

  /** A stateless session on the transaction's own connection. */
  private StatelessSession stateless() {
    return entities
        .unwrap(Session.class)
        .doReturningWork(connection ->
            entities
                .getEntityManagerFactory()
                .unwrap(org.hibernate.SessionFactory.class)
                .openStatelessSession(connection));
  }

  private static ModelRow row(Thing thing) {
    return switch (thing) {
      case Account it -> AccountRow.of(it);
      case Unit it -> UnitRow.of(it);
      case Pattern it -> PatternRow.of(it);
      case Principal it -> PrincipalRow.of(it);
      case Guest it -> GuestRow.of(it);
      case Group it -> GroupRow.of(it);
      case ResourceType it -> ResourceTypeRow.of(it);
      case Permission it -> PermissionRow.of(it);
      case PermissionSet it -> PermissionSetRow.of(it);
      case Role it -> RoleRow.of(it);
      case Resource it -> ResourceRow.of(it);
      case ResourceCollection it -> ResourceCollectionRow.of(it);
      case Assignment it -> AssignmentRow.of(it);
      case Activation it -> ActivationRow.of(it);
      case Bridge it -> BridgeRow.of(it);
      case Delegation it -> DelegationRow.of(it);
      case Exclusion it -> ExclusionRow.of(it);
      case Expectation it -> ExpectationRow.of(it);
    };
  }
}
