using Keralith.Data;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Account;

public sealed class AccountModel(Here here) : YardPage(here)
{
    public Actor Who => Here.Actor;

    public async Task<IActionResult> OnPostAsync()
    {
        await HttpContext.SignOutAsync();
        return Redirect("/sign-in");
    }
}
