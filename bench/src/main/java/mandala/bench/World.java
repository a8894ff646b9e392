package mandala.bench;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import mandala.core.engine.Engine;
import mandala.core.explain.Routes;
import mandala.core.model.AccessModel;
import mandala.core.model.Permission;
import mandala.core.model.Principal;
import mandala.core.model.Resource;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.TypeKey;
import mandala.core.question.Question;
import mandala.core.question.Session;

/** A model of a size with its engine, and random questions about it; one for each run. */
public final class World {

  static final long SEED = 1;

  final AccessModel model;
  final Engine engine;
  final Routes routes;
  private final Random random = new Random(7);
  private final Map<TypeKey, List<Permission>> byType = new HashMap<>();
  private final Map<AccountKey, List<Resource>> byAccount = new HashMap<>();

  World(AccessModel model, Engine engine) {
    this.model = model;
    this.engine = engine;
    this.routes = Routes.of(engine);
    for (Permission permission : model.permissions()) {
      for (TypeKey type : permission.on()) {
        byType.computeIfAbsent(type, _ -> new ArrayList<>()).add(permission);
      }
    }
    for (Resource resource : model.resources()) {
      byAccount.computeIfAbsent(resource.account(), _ -> new ArrayList<>()).add(resource);
    }
  }

  Principal person() {
    return model.principals().get(random.nextInt(model.principals().size()));
  }

  Session session() {
    return session(person());
  }

  static Session session(Principal principal) {
    return new Session(principal.key(), Settlement.NOW, true, null);
  }

  /** A resource, of the principal's own account three times of four. */
  private Resource resource(Principal principal) {
    List<Resource> own = byAccount.getOrDefault(principal.account(), List.of());
    return own.isEmpty() || random.nextInt(4) == 0
        ? model.resources().get(random.nextInt(model.resources().size()))
        : own.get(random.nextInt(own.size()));
  }

  Question question(Principal principal) {
    Resource resource = resource(principal);
    List<Permission> permissions = byType.getOrDefault(resource.type(), List.of());
    PermissionKey permission = permissions.get(random.nextInt(permissions.size())).key();
    return session(principal).asks(permission, resource.key());
  }

  List<Question> questions(int many, int among) {
    List<Principal> people = new ArrayList<>();
    for (int i = 0; i < Math.min(many, among); i++) {
      people.add(person());
    }
    List<Question> questions = new ArrayList<>(many);
    for (int i = 0; i < many; i++) {
      questions.add(question(people.get(random.nextInt(people.size()))));
    }
    return questions;
  }

  /** Questions about as many people, in an order in which nobody comes back soon. */
  List<Question> coldQuestions(int many) {
    List<Question> questions = new ArrayList<>(many);
    for (int i = 0; i < many; i++) {
      questions.add(
          question(model.principals().get((int) (i * 7919L % model.principals().size()))));
    }
    return questions;
  }

  Random random() {
    return random;
  }
}
