package mandala.core.lifecycle;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import mandala.core.model.Activation;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Delegation;
import mandala.core.model.Expectation;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.Pattern;
import mandala.core.model.Principal;
import mandala.core.model.Resource;
import mandala.core.model.Role;
import mandala.core.model.Subject;
import mandala.core.model.key.PrincipalKey;

/**
 * All that ties one principal to the model.
 *
 * @param whose of whom
 * @param byId in a stable order: what they have, what they answer for, delegations, statements
 */
public record Ties(Principal whose, Map<String, Tie> byId) {

  /** {@return the ties of a principal}, found in one pass over the model */
  public static Ties of(Catalogue in, Principal whose) {
    PrincipalKey key = whose.key();
    Subject subject = new Subject.OfPrincipal(whose.kind(), key);
    List<Tie> all = new ArrayList<>();
    Pattern pattern = whose.pattern() == null ? null : in.patterns().get(whose.pattern());
    if (pattern != null) {
      all.add(new Tie.Follows(whose, pattern));
    }
    for (Group it : in.groups().values()) {
      if (it.lists(whose)) {
        all.add(new Tie.Membership(it));
      }
    }
    for (Assignment it : in.assignments().values()) {
      if (it.subject().equals(subject)) {
        all.add(new Tie.Assigned(it));
      }
    }
    whose.reach().forEach(it -> all.add(new Tie.Reaches(whose, it)));
    Map<Object, Integer> numbers = new HashMap<>();
    for (Guest it : in.guests()) {
      if (it.principal().equals(key)) {
        all.add(new Tie.GuestOf(it, number(numbers, it.account())));
      }
    }
    for (Activation it : in.activations()) {
      if (it.principal().equals(key)) {
        all.add(new Tie.Activated(it, number(numbers, it.assignment())));
      }
    }
    duties(in, key, numbers, all);
    for (Delegation it : in.delegations().values()) {
      if (it.principal().equals(key) || it.delegate().equals(key)) {
        all.add(new Tie.Delegates(it, it.principal().equals(key)));
      }
    }
    for (Expectation it : in.expectations().values()) {
      if (it.subjects().contains(subject)) {
        all.add(new Tie.Expected(it));
      }
    }
    Map<String, Tie> byId = new LinkedHashMap<>();
    all.forEach(it -> byId.put(it.id(), it));
    return new Ties(whose, byId);
  }

  private static void duties(
      Catalogue in, PrincipalKey key, Map<Object, Integer> numbers, List<Tie> all) {
    for (Resource it : in.resources().values()) {
      if (key.equals(it.owner())) {
        all.add(new Tie.Owns(it));
      }
    }
    for (Group it : in.groups().values()) {
      if (it.owners().contains(key)) {
        all.add(new Tie.AnswersFor(it));
      }
    }
    for (Role it : in.roles().values()) {
      if (it.owners().contains(key)) {
        all.add(new Tie.AnswersFor(it));
      }
    }
    for (Pattern it : in.patterns().values()) {
      if (it.owners().contains(key)) {
        all.add(new Tie.AnswersFor(it));
      }
    }
    for (Principal it : in.principals().values()) {
      if (key.equals(it.sponsor())) {
        all.add(new Tie.Sponsors(it));
      }
      if (key.equals(it.manager())) {
        all.add(new Tie.Manages(it));
      }
    }
    for (Guest it : in.guests()) {
      if (key.equals(it.sponsor())) {
        all.add(new Tie.SponsorsGuest(it, number(numbers, List.of(it.account(), it.principal()))));
      }
    }
  }

  private static int number(Map<Object, Integer> numbers, Object of) {
    return numbers.merge(of, 1, Integer::sum) - 1;
  }

  /** {@return the ties}, in their order */
  public List<Tie> all() {
    return List.copyOf(byId.values());
  }
}
