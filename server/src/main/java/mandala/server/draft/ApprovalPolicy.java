package mandala.server.draft;

import jakarta.persistence.EntityManager;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import mandala.core.model.Key;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * When root accounts ask for a second person besides section 11 of the access model: where a draft
 * that names something of theirs gives or takes rights of more than so many people. Read from the
 * database each time, so that all instances keep to it at once.
 */
@Service
class ApprovalPolicy {

  private final EntityManager entities;

  ApprovalPolicy(EntityManager entities) {
    this.entities = entities;
  }

  /** {@return by root account how many people one person alone may give or take rights} */
  @Transactional(readOnly = true)
  @SuppressWarnings("unchecked")
  public Map<String, Integer> people() {
    Map<String, Integer> people = new TreeMap<>();
    List<Object[]> rows =
        entities.createNativeQuery("select account, people from approval_policy").getResultList();
    rows.forEach(row -> people.put((String) row[0], (Integer) row[1]));
    return people;
  }

  /** Sets it for a root account; null for any number. */
  @Transactional
  public void set(Key.Account root, @Nullable Integer people) {
    entities
        .createNativeQuery("delete from approval_policy where account = :account")
        .setParameter("account", root.value())
        .executeUpdate();
    if (people != null) {
      entities
          .createNativeQuery("insert into approval_policy values (:account, :people)")
          .setParameter("account", root.value())
          .setParameter("people", people)
          .executeUpdate();
    }
  }
}
