package mandala.server.model;

import jakarta.persistence.EntityManager;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import mandala.server.audit.ErasedParts;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Isolation;
import org.springframework.transaction.annotation.Transactional;

/**
 * Holds the model and its revisions to the trail: that each revision's entry is as it was written,
 * each full copy is the model of its revision, and the tables hold the model that the last revision
 * left. What earlier versions wrote, before the trail had digests, is not held.
 */
@Component
public class ModelProof {

  private final EntityManager entities;
  private final ModelTables tables;
  private final ErasedParts erased;

  ModelProof(EntityManager entities, ModelTables tables, ErasedParts erased) {
    this.entities = entities;
    this.tables = tables;
    this.erased = erased;
  }

  /** {@return the names of the tables that hold the model in force}, which the trail proves */
  public static Set<String> tables() {
    return ModelTables.names();
  }

  private record Held(String entry, String model) {}

  /**
   * {@return what is wrong first, in a sentence}, none where all is well; as it stood at one moment
   */
  @Transactional(readOnly = true, isolation = Isolation.REPEATABLE_READ)
  public Optional<String> fault() {
    Map<Long, Held> held = held();
    if (held.isEmpty()) {
      return Optional.empty();
    }
    String fault = faultOfEntries(held);
    fault = fault == null ? faultOfCopies(held) : fault;
    return Optional.ofNullable(fault == null ? faultOfTables(held) : fault);
  }

  @SuppressWarnings("unchecked") // three columns: bigint, text, text
  private Map<Long, Held> held() {
    List<Object[]> rows =
        entities
            .createNativeQuery(
                "select revision, entry_digest, model_digest from trail where act = 'revision'"
                    + " order by seq")
            .getResultList();
    Map<Long, Held> held = new LinkedHashMap<>();
    rows.forEach(row ->
        held.put(
            ((Number) row[0]).longValue(),
            new Held(String.valueOf(row[1]), String.valueOf(row[2]))));
    return held;
  }

  private @Nullable String faultOfEntries(Map<Long, Held> held) {
    long first = held.keySet().iterator().next();
    List<Revision> entries =
        entities
            .createQuery("from Revision where number >= :first order by number", Revision.class)
            .setParameter("first", first)
            .getResultList();
    Map<Long, String> blotted = erased.latest(ErasedParts.Sort.REVISION);
    Map<Long, Revision> kept = new LinkedHashMap<>();
    for (Revision entry : entries) {
      kept.put(entry.number(), entry);
      Held it = held.get(entry.number());
      if (it == null) {
        return "Revision " + entry.number() + " is not in the trail";
      }
      if (!blotted.getOrDefault(entry.number(), it.entry()).equals(entry.digest())) {
        return "Revision " + entry.number() + " is not as it was written";
      }
    }
    for (long number : held.keySet()) {
      if (!kept.containsKey(number)) {
        return "Revision " + number + " is missing, but the trail tells of it";
      }
    }
    return null;
  }

  @SuppressWarnings("unchecked") // two columns: bigint, bytea
  private @Nullable String faultOfCopies(Map<Long, Held> held) {
    List<Object[]> copies =
        entities
            .createNativeQuery("select number, document from model_copy order by number")
            .getResultList();
    Map<Long, String> blotted = erased.latest(ErasedParts.Sort.COPY);
    for (Object[] copy : copies) {
      long number = ((Number) copy[0]).longValue();
      Held it = held.get(number);
      if (it != null
          && !blotted.getOrDefault(number, it.model()).equals(digestOf((byte[]) copy[1]))) {
        return "The copy of the model at revision " + number + " is not as it was written";
      }
    }
    for (Map.Entry<Long, Held> it : held.entrySet()) {
      Revision entry = entities.find(Revision.class, it.getKey());
      boolean copied =
          copies.stream().anyMatch(row -> ((Number) row[0]).longValue() == it.getKey());
      if (entry != null && entry.changes() == null && !copied) {
        return "The copy of the model at revision " + it.getKey() + " is missing";
      }
    }
    return null;
  }

  private static String digestOf(byte[] document) {
    try {
      return ModelDigest.of(ModelCopy.read(document)).hex();
    } catch (RuntimeException _) {
      return "unreadable";
    }
  }

  private @Nullable String faultOfTables(Map<Long, Held> held) {
    long last = held.keySet().stream().mapToLong(Long::longValue).max().orElseThrow();
    ModelHead now = entities.find(ModelHead.class, 1);
    if (now == null || now.number() != last) {
      return "The model is said to be at revision "
          + (now == null ? "none" : now.number())
          + ", but the trail ends at revision "
          + last;
    }
    Held it = held.get(last);
    String found;
    try {
      found = ModelDigest.of(tables.read((_, _) -> {})).hex();
    } catch (RuntimeException e) {
      return "The tables of the model cannot be read: " + e.getMessage();
    }
    return it == null || it.model().equals(found)
        ? null
        : "The tables do not hold the model that revision " + last + " left";
  }
}
