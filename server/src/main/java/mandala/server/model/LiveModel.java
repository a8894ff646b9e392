package mandala.server.model;

import jakarta.persistence.EntityManager;
import jakarta.persistence.LockModeType;
import java.time.Clock;
import java.util.function.Consumer;
import mandala.core.engine.Engine;
import mandala.core.model.AccessModel;
import mandala.core.route.Routes;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * The model that this server answers from: read once from the database, then replaced as a whole by
 * one volatile write after each committed change. Thread-safe.
 */
@Component
public class LiveModel {

  private final EntityManager entities;
  private final ModelTables tables;
  private final TransactionTemplate transactions;
  private final Clock clock;
  private volatile @Nullable State state;

  LiveModel(
      EntityManager entities, ModelTables tables, TransactionTemplate transactions, Clock clock) {
    this.entities = entities;
    this.tables = tables;
    this.transactions = transactions;
    this.clock = clock;
  }

  /**
   * One state of the model.
   *
   * @param revision its number, 0 before anything was imported
   * @param demo whether it is the demo, whose people may be chosen by a click
   */
  public record State(long revision, boolean demo, Engine engine, Routes routes) {
    static State of(long revision, boolean demo, Engine engine) {
      return new State(revision, demo, engine, Routes.of(engine.catalogue()));
    }
  }

  /** {@return the state that the last committed change left} */
  public State state() {
    State known = state;
    return known == null ? load() : known;
  }

  /** {@return the engine of {@link #state}} */
  public Engine engine() {
    return state().engine();
  }

  private synchronized State load() {
    State known = state;
    if (known != null) {
      return known;
    }
    State loaded =
        transactions.execute(_ -> {
          Revision revision = revision(LockModeType.PESSIMISTIC_READ);
          return State.of(revision.number(), revision.demo(), Engine.of(tables.read()));
        });
    state = loaded;
    return loaded;
  }

  private Revision revision(LockModeType lock) {
    return entities.find(Revision.class, 1, lock);
  }

  /**
   * Replaces the model in one transaction; whoever asks sees the old model or the new one.
   *
   * @param model checked: it has no faults
   * @param alongside more to write in the same transaction
   * @return the new state
   */
  public synchronized State replace(
      AccessModel model, boolean demo, Consumer<EntityManager> alongside) {
    AccessModel sorted = model.sorted();
    Engine engine = Engine.of(sorted);
    Long number =
        transactions.execute(_ -> {
          Revision revision = revision(LockModeType.PESSIMISTIC_WRITE);
          revision.advance(demo, clock.instant());
          tables.replace(sorted);
          alongside.accept(entities);
          return revision.number();
        });
    State replaced = State.of(number == null ? 0 : number, demo, engine);
    state = replaced;
    return replaced;
  }
}
