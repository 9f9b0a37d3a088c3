using Microsoft.AspNetCore.Mvc;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web.Pages.Jobs;

/// <summary>What was handed over to the party that a recipient belongs to; nothing else of the job.</summary>
public sealed class DeliveredModel(
    JobAccess access,
    TransmittalIssue handing,
    TransmittalArchive archive,
    TopicQuery topics
) : JobPage(access)
{
    /// <summary>Open topics that were handed to the party.</summary>
    public IReadOnlyList<ShownTopic> Topics { get; private set; } = [];

    /// <summary>The party.</summary>
    public Party? Party { get; private set; }

    /// <summary>What was handed over, newest first.</summary>
    public IReadOnlyList<HandedOver> Transmittals { get; private set; } = [];

    /// <inheritdoc/>
    protected override bool IsForRecipients => true;

    /// <summary>Lists what there is.</summary>
    public async Task<IActionResult> OnGetAsync()
    {
        if (!Find())
            return NotFound();
        Transmittals = await handing.ToAsync(Job.Id, Party!, null, HttpContext.RequestAborted);
        (Topics, _) = await topics.ListAsync(
            Job.Id,
            Permissions,
            new TopicFilter(),
            TopicQuery.Most,
            HttpContext.RequestAborted
        );
        return Page();
    }

    /// <summary>A file, byte for byte.</summary>
    public async Task<IActionResult> OnGetFileAsync(Guid id, string name)
    {
        if (await HandedAsync(id) is not { } handed || handed.Files.FirstOrDefault(f => f.Name == name) is not { } file)
            return NotFound();
        var blob = await archive.FetchAsync(
            Job.Id,
            id,
            name,
            $"transmittal {handed.Number}, {handed.Title}",
            Actor,
            HttpContext.RequestAborted
        );
        Response.ContentType = "application/octet-stream";
        Response.ContentLength = file.Length;
        Response.Headers.ContentDisposition = Attachment(file.Name);
        await archive.CopyToAsync(blob, Response.Body, HttpContext.RequestAborted);
        return new EmptyResult();
    }

    /// <summary>The picture of a file. The file never changes, so neither does its picture.</summary>
    public async Task<IActionResult> OnGetPictureAsync(Guid id, string name)
    {
        if (
            !Find()
            || !await handing.IsHandedAsync(Job.Id, Party!, id, HttpContext.RequestAborted)
            || await handing.PictureAsync(id, name, HttpContext.RequestAborted) is not { } picture
        )
            return NotFound();
        Response.Headers.CacheControl = "private, max-age=86400, immutable";
        return File(picture, FilePictures.TypeOf(picture));
    }

    /// <summary>What changed since the transmittal of the order before.</summary>
    public async Task<IActionResult> OnGetChangesAsync(Guid id) =>
        Find() && await handing.ChangesAsync(Job.Id, Party!, id, HttpContext.RequestAborted) is { } changes
            ? Partial("_TransmittalChanges", changes)
            : NotFound();

    /// <summary>All files of a transmittal in one archive.</summary>
    public async Task<IActionResult> OnGetAllAsync(Guid id)
    {
        if (await HandedAsync(id) is not { } handed)
            return NotFound();
        await archive.FetchAllAsync(
            Job.Id,
            $"transmittal {handed.Number}, {handed.Title}",
            Actor,
            HttpContext.RequestAborted
        );
        Response.ContentType = "application/zip";
        Response.Headers.ContentDisposition = Attachment(
            TransmittalArchive.Name(Job.Code, handed.Order, handed.Number)
        );
        await archive.WriteAsync(id, null, Response.BodyWriter.AsStream(), HttpContext.RequestAborted);
        return new EmptyResult();
    }

    /// <summary>Takes the word of the person that a file, or all of them, arrived.</summary>
    public async Task<IActionResult> OnPostConfirmAsync(Guid id, string? name)
    {
        if (await HandedAsync(id) is not { } handed || (name is not null && !handed.Files.Any(f => f.Name == name)))
            return NotFound();
        await handing.ConfirmAsync(Job.Id, handed, name, Actor, HttpContext.RequestAborted);
        Done = name is null
            ? $"Receipt of transmittal {handed.Number} of {handed.Title} is confirmed."
            : $"Receipt of {name} is confirmed.";
        return Redirect($"/jobs/{Job.Code}/delivered");
    }

    private static string Attachment(string name) =>
        new System.Net.Http.Headers.ContentDispositionHeaderValue("attachment") { FileNameStar = name }.ToString();

    private async Task<HandedOver?> HandedAsync(Guid id) =>
        Find() ? (await handing.ToAsync(Job.Id, Party!, id, HttpContext.RequestAborted)).FirstOrDefault() : null;

    private bool Find() => (Party = Job.Parties.FirstOrDefault(p => p.Id == Member.PartyId)) is not null;
}
