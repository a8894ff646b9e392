package mandala.server.authorization;

import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Set;
import mandala.core.model.Supplied;
import mandala.core.model.key.ResourceKey;
import mandala.server.platform.Problem;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.boot.actuate.endpoint.SecurityContext;
import org.springframework.boot.health.actuate.endpoint.AdditionalHealthEndpointPath;
import org.springframework.boot.health.actuate.endpoint.HealthEndpointGroup;
import org.springframework.boot.health.actuate.endpoint.HealthEndpointGroups;
import org.springframework.boot.health.actuate.endpoint.HealthEndpointGroupsPostProcessor;
import org.springframework.boot.health.actuate.endpoint.HttpCodeStatusMapper;
import org.springframework.boot.health.actuate.endpoint.StatusAggregator;
import org.springframework.stereotype.Component;

/**
 * The health page says whether the server is up to whoever asks; what it is made of only to those
 * who manage the settings of a root account.
 */
@Component
class HealthForWhoMay implements HealthEndpointGroupsPostProcessor {

  private final ObjectProvider<RequestContexts> contexts;

  HealthForWhoMay(ObjectProvider<RequestContexts> contexts) {
    this.contexts = contexts;
  }

  @Override
  public HealthEndpointGroups postProcessHealthEndpointGroups(HealthEndpointGroups groups) {
    Map<String, HealthEndpointGroup> named = new LinkedHashMap<>();
    for (String name : Set.copyOf(groups.getNames())) {
      HealthEndpointGroup group = groups.get(name);
      if (group != null) {
        named.put(name, new Guarded(group));
      }
    }
    return HealthEndpointGroups.of(new Guarded(groups.getPrimary()), named);
  }

  private boolean may() {
    try {
      RequestContext context = contexts.getObject().context();
      return context.state().engine().catalogue().accounts().values().stream()
          .filter(it -> it.parent() == null)
          .anyMatch(
              it -> context.readPolicy().may(Supplied.SETTINGS_MANAGE, ResourceKey.of(it.key())));
    } catch (Problem _) {
      return false; // nobody is signed in
    }
  }

  private final class Guarded implements HealthEndpointGroup {
    private final HealthEndpointGroup group;

    Guarded(HealthEndpointGroup group) {
      this.group = group;
    }

    @Override
    public boolean isMember(String name) {
      return group.isMember(name);
    }

    @Override
    public boolean showComponents(SecurityContext context) {
      return may();
    }

    @Override
    public boolean showDetails(SecurityContext context) {
      return may();
    }

    @Override
    public StatusAggregator getStatusAggregator() {
      return group.getStatusAggregator();
    }

    @Override
    public HttpCodeStatusMapper getHttpCodeStatusMapper() {
      return group.getHttpCodeStatusMapper();
    }

    @Override
    public @org.jspecify.annotations.Nullable AdditionalHealthEndpointPath getAdditionalPath() {
      return group.getAdditionalPath();
    }
  }
}
