using System.Security.Claims;
using SteadyLintel.Jobs;

namespace SteadyLintel.Web;

/// <summary>Who asks.</summary>
public static class Caller
{
    /// <summary>The signed-in person's identity; empty for nobody.</summary>
    public static Guid Id(ClaimsPrincipal user) =>
        Guid.TryParse(user.FindFirstValue(ClaimTypes.NameIdentifier), out var id) ? id : Guid.Empty;

    /// <summary>Who does something, and from where.</summary>
    public static Actor Actor(HttpContext http) => new(Id(http.User), Address(http));

    /// <summary>The network address of a request.</summary>
    public static string Address(HttpContext http) => http.Connection.RemoteIpAddress?.ToString() ?? "";
}
