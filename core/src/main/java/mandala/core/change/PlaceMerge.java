package mandala.core.change;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import mandala.core.model.AccessModel;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Delegation;
import mandala.core.model.Expectation;
import mandala.core.model.Resource;
import mandala.core.model.ResourceCollection;
import mandala.core.model.Term;
import mandala.core.model.key.ResourceKey;
import org.jspecify.annotations.Nullable;

/**
 * One place merged into another, as changes: what lies directly below moves along, collections and
 * scopes that name the one name the other, and the one goes. Its own owner, unit, labels and seal
 * are gone with it.
 */
public final class PlaceMerge {

  private final Catalogue in;
  private final ResourceKey from;
  private final ResourceKey into;

  private PlaceMerge(Catalogue in, ResourceKey from, ResourceKey into) {
    this.in = in;
    this.from = from;
    this.into = into;
  }

  /**
   * {@return the changes that merge one place into another}, the removal last
   *
   * @param from a listed resource
   * @param into a resource of the same account that is neither it nor below it
   * @throws IllegalArgumentException if they are not
   */
  public static List<Change> of(Catalogue in, ResourceKey from, ResourceKey into) {
    Resource goes = in.resources().get(from);
    if (goes == null) {
      throw new IllegalArgumentException("There is no listed place '" + from + "' to merge");
    }
    if (!in.has(into) || !goes.account().equals(in.accountOf(into))) {
      throw new IllegalArgumentException(
          "'" + from + "' merges into a place of its own account only");
    }
    for (ResourceKey at = into; at != null; at = in.parentOf(at)) {
      if (at.equals(from)) {
        throw new IllegalArgumentException(
            "'" + into + "' is '" + from + "' or lies below it; merge the other way round");
      }
    }
    return new PlaceMerge(in, from, into).changes(goes);
  }

  private List<Change> changes(Resource goes) {
    List<Change> changes = new ArrayList<>();
    AccessModel model = in.model();
    for (Resource it : model.resources()) {
      if (from.equals(it.parent())) {
        changes.add(new Change.Altered(it, below(it)));
      }
    }
    for (ResourceCollection it : model.collections()) {
      if (it.members().contains(from)) {
        LinkedHashSet<ResourceKey> members = new LinkedHashSet<>();
        it.members().forEach(each -> members.add(each.equals(from) ? into : each));
        changes.add(
            new Change.Altered(
                it,
                new ResourceCollection(it.key(), it.about(), it.account(), List.copyOf(members))));
      }
    }
    for (Assignment it : model.assignments()) {
      if (names(it.scope()) || names(it.viewScope())) {
        changes.add(
            new Change.Altered(
                it,
                new Assignment(
                    it.key(),
                    it.about(),
                    it.subject(),
                    it.gives(),
                    it.effect(),
                    renamed(it.scope()),
                    renamed(it.viewScope()),
                    it.window(),
                    it.mode(),
                    it.crossesSeals())));
      }
    }
    for (Bridge it : model.bridges()) {
      if (names(it.scope())) {
        changes.add(
            new Change.Altered(
                it,
                new Bridge(
                    it.key(),
                    it.about(),
                    it.account(),
                    it.group(),
                    it.gives(),
                    renamed(it.scope()),
                    it.window(),
                    it.status())));
      }
    }
    for (Delegation it : model.delegations()) {
      if (names(it.scope())) {
        changes.add(
            new Change.Altered(
                it,
                new Delegation(
                    it.key(),
                    it.about(),
                    it.principal(),
                    it.delegate(),
                    it.limit(),
                    renamed(it.scope()),
                    it.window())));
      }
    }
    for (Expectation it : model.expectations()) {
      if (names(it.scope())) {
        changes.add(
            new Change.Altered(
                it,
                new Expectation(
                    it.key(),
                    it.about(),
                    it.account(),
                    it.form(),
                    it.subjects(),
                    it.permissions(),
                    renamed(it.scope()),
                    it.min(),
                    it.max())));
      }
    }
    changes.add(new Change.Removed(goes));
    return changes;
  }

  /** A place that hangs under its account names no parent. */
  private Resource below(Resource it) {
    @Nullable ResourceKey parent = into.equals(ResourceKey.of(it.account())) ? null : into;
    return new Resource(
        it.key(),
        it.about(),
        it.type(),
        it.account(),
        parent,
        it.owner(),
        it.unit(),
        it.labels(),
        it.sealed());
  }

  private boolean names(List<Clause> scope) {
    return scope.stream()
        .flatMap(it -> it.terms().stream())
        .anyMatch(it -> !it.equals(renamed(it)));
  }

  private List<Clause> renamed(List<Clause> scope) {
    return scope.stream()
        .map(it -> new Clause(it.terms().stream().map(this::renamed).toList()))
        .distinct()
        .toList();
  }

  private Term renamed(Term term) {
    return switch (term) {
      case Term.Tree(ResourceKey resource) when resource.equals(from) -> new Term.Tree(into);
      case Term.Only(ResourceKey resource) when resource.equals(from) -> new Term.Only(into);
      default -> term;
    };
  }
}
