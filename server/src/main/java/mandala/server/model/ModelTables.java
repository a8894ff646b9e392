package mandala.server.model;

import jakarta.persistence.EntityManager;
import java.util.List;
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

/** The model's tables: read whole, replaced whole. */
@Repository
class ModelTables {

  private static final List<Class<? extends ModelRow>> ROWS =
      List.of(
          AccountRow.class,
          UnitRow.class,
          PatternRow.class,
          PrincipalRow.class,
          GuestRow.class,
          GroupRow.class,
          ResourceTypeRow.class,
          PermissionRow.class,
          PermissionSetRow.class,
          RoleRow.class,
          ResourceRow.class,
          ResourceCollectionRow.class,
          AssignmentRow.class,
          ActivationRow.class,
          BridgeRow.class,
          DelegationRow.class,
          ExclusionRow.class,
          ExpectationRow.class);

  private static final int BATCH = 500;

  private final EntityManager entities;

  ModelTables(EntityManager entities) {
    this.entities = entities;
  }

  /** {@return the model in the tables}, in the canonical order */
  AccessModel read() {
    AccessModel.Builder model = AccessModel.builder();
    try (StatelessSession session = stateless()) {
      for (Class<? extends ModelRow> rows : ROWS) {
        session
            .createSelectionQuery("from " + rows.getSimpleName(), rows)
            .getResultList()
            .forEach(row -> model.add(row.thing()));
      }
    }
    return model.build().sorted();
  }

  /** Empties the tables and writes a model into them, within the running transaction. */
  void replace(AccessModel model) {
    try (StatelessSession session = stateless()) {
      for (Class<? extends ModelRow> rows : ROWS) {
        session.createMutationQuery("delete from " + rows.getSimpleName()).executeUpdate();
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
