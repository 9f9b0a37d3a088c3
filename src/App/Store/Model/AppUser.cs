using Microsoft.AspNetCore.Identity;

namespace SteadyLintel.Store;

/// <summary>A person who signs in.</summary>
public sealed class AppUser : IdentityUser<Guid>
{
    /// <summary>The name to show.</summary>
    public string DisplayName { get; set; } = "";

    /// <summary>Whether the person runs the site: makes jobs, sees its state.</summary>
    public bool IsAdministrator { get; set; }

    /// <summary>The time zone that times are shown in (IANA name); empty for the site's.</summary>
    public string TimeZone { get; set; } = "";

    /// <summary>How lengths are written: <c>m</c>, <c>mm</c>, <c>ft</c>; empty for metres.</summary>
    public string Lengths { get; set; } = "";

    /// <summary>The time step (RFC 6238, 5.2) of the last code of the second factor that was used, so that each is used once; 0 before the
    /// first.</summary>
    public long LastCodeStep { get; set; }

    /// <summary>Whether keys without Ctrl or Alt do something on pages (WCAG 2.1.4).</summary>
    public bool SingleKeys { get; set; } = true;
}
