package mandala.server.draft;

import jakarta.persistence.EntityManager;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import mandala.core.model.key.AccountKey;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * What root accounts require of drafts that name something of theirs, besides section 11 of the
 * access model: a second person above a number of people, a reason, a reference. Read from the
 * database each time, so that all instances keep to it at once.
 */
@Service
class ApprovalPolicy {

  private final EntityManager entities;

  ApprovalPolicy(EntityManager entities) {
    this.entities = entities;
  }

  /**
   * What one root account asks for.
   *
   * @param people how many people one person alone may give or take rights; null for any number
   * @param reason whether a draft needs a reason, {@code reference} a ticket or order
   */
  record Rule(@Nullable Integer people, boolean reason, boolean reference) {
    static final Rule NONE = new Rule(null, false, false);
  }

  /** {@return the rules of root accounts, by key}; of those without one there is none */
  @Transactional(readOnly = true)
  @SuppressWarnings("unchecked")
  public Map<String, Rule> rules() {
    Map<String, Rule> rules = new TreeMap<>();
    List<Object[]> rows =
        entities
            .createNativeQuery("select account, people, reason, reference from approval_policy")
            .getResultList();
    rows.forEach(row ->
        rules.put((String) row[0], new Rule((Integer) row[1], (Boolean) row[2], (Boolean) row[3])));
    return rules;
  }

  /** {@return by root account how many people one person alone may give or take rights} */
  public Map<String, Integer> people() {
    return peopleOf(rules());
  }

  static Map<String, Integer> peopleOf(Map<String, Rule> rules) {
    Map<String, Integer> most = new TreeMap<>();
    rules.forEach((account, rule) -> {
      Integer people = rule.people();
      if (people != null) {
        most.put(account, people);
      }
    });
    return most;
  }

  /** Sets the rule of a root account. */
  @Transactional
  public void set(AccountKey root, Rule rule) {
    entities
        .createNativeQuery("delete from approval_policy where account = :account")
        .setParameter("account", root.value())
        .executeUpdate();
    if (!rule.equals(Rule.NONE)) {
      entities
          .createNativeQuery(
              "insert into approval_policy (account, people, reason, reference)"
                  + " values (:account, cast(:people as integer), :reason, :reference)")
          .setParameter("account", root.value())
          .setParameter("people", rule.people())
          .setParameter("reason", rule.reason())
          .setParameter("reference", rule.reference())
          .executeUpdate();
    }
  }
}
