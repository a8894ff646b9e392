package mandala.core.model.check;

import java.util.List;
import mandala.core.model.Catalogue;
import mandala.core.model.Gives;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PatternKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PermissionSetKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.RoleKey;

/** Reports references to what is not there. */
final class Refs {

  private Refs() {}

  static void subject(Subject subject, Catalogue known, Faults.Place place) {
    switch (subject) {
      case Subject.OfPrincipal(Principal.Kind kind, PrincipalKey key) ->
          principal(kind, key, known, place);
      case Subject.OfGroup(GroupKey key) ->
          place.requireKnown(known.groups().containsKey(key), "group", key);
      case Subject.OfPattern(PatternKey key) ->
          place.requireKnown(known.patterns().containsKey(key), "pattern", key);
      case Subject.OfAccount(AccountKey key) ->
          place.requireKnown(known.accounts().containsKey(key), "account", key);
      case Subject.Public _ -> {
        // always there
      }
    }
  }

  static void principal(
      Principal.Kind kind, PrincipalKey key, Catalogue known, Faults.Place place) {
    place.requireKnown(
        known.has(kind, key), kind == Principal.Kind.PERSON ? "person" : "service", key);
  }

  static void principals(List<PrincipalKey> keys, Catalogue known, Faults.Place place) {
    for (int i = 0; i < keys.size(); i++) {
      place
          .index(i)
          .requireKnown(known.principals().containsKey(keys.get(i)), "principal", keys.get(i));
    }
  }

  static void gives(Gives gives, Catalogue known, Faults.Place place) {
    switch (gives) {
      case Gives.OfRole(RoleKey key) ->
          place.requireKnown(known.roles().containsKey(key), "role", key);
      case Gives.OfSet(PermissionSetKey key) ->
          place.requireKnown(known.sets().containsKey(key), "permission set", key);
      case Gives.OfPermission(PermissionKey key) ->
          place.requireKnown(known.permissions().containsKey(key), "permission", key);
    }
  }
}
