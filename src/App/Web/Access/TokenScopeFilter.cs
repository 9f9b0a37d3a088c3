using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Filters;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace SteadyLintel.Web;

/// <summary>Lets a program's token do outside jobs no more than read: no scope is about making jobs or accounts. Pages of jobs ask for
/// their scope themselves.</summary>
public sealed class TokenScopeFilter : IAuthorizationFilter
{
    /// <inheritdoc/>
    public void OnAuthorization(AuthorizationFilterContext context)
    {
        if (
            context.ActionDescriptor is CompiledPageActionDescriptor page
            && typeof(JobPage).IsAssignableFrom(page.ModelTypeInfo)
        )
            return;
        bool reads =
            HttpMethods.IsGet(context.HttpContext.Request.Method)
            || HttpMethods.IsHead(context.HttpContext.Request.Method);
        if (TokenAuthentication.Allows(context.HttpContext.User, reads ? "read" : "page"))
            return;
        context.Result = new ContentResult
        {
            StatusCode = 403,
            ContentType = "text/plain",
            Content = TokenAuthentication.NotAllowed,
        };
    }
}
