using System.Text.Json;
using SteadyLintel.Exchange;
using SteadyLintel.Topics;

namespace SteadyLintel.Cli;

/// <summary>Topics for programs that read the terminal.</summary>
internal static class TopicMachine
{
    public static object Of(TopicArchive archive) =>
        new
        {
            Version = archive.Version.Text(),
            Project = new { Id = archive.ProjectId, Name = archive.ProjectName },
            archive.Extensions,
            Topics = archive.Topics.Select(Topic),
            Findings = Findings(archive.Findings),
        };

    public static object Findings(IReadOnlyList<Finding> findings) =>
        findings.Select(f => new
        {
            f.Code,
            Severity = JsonNamingPolicy.CamelCase.ConvertName(f.Severity.ToString()),
            f.Message,
            f.Count,
            Places = f.Elements.Select(e => new { Topic = e.Name, e.Detail }),
        });

    private static object Topic(Topic t) =>
        new
        {
            t.Guid,
            t.ServerAssignedId,
            t.Title,
            t.Status,
            t.Type,
            t.Priority,
            t.Index,
            t.Stage,
            Assignee = t.AssignedTo,
            t.DueDate,
            t.Labels,
            t.Description,
            t.CreationDate,
            t.CreationAuthor,
            t.ModifiedDate,
            t.ModifiedAuthor,
            t.ReferenceLinks,
            t.RelatedTopics,
            t.Documents,
            t.Snippet,
            t.Files,
            Comments = t.Comments.Select(c => new
            {
                c.Guid,
                c.Date,
                c.Author,
                Comment = c.Text,
                c.Viewpoint,
                c.ModifiedDate,
                c.ModifiedAuthor,
            }),
            Viewpoints = t.Viewpoints.Select(Viewpoint),
            Parts = t.Parts.Select(p => new { p.Name, p.Length }),
        };

    private static object Viewpoint(Viewpoint v) =>
        new
        {
            v.Guid,
            v.Index,
            v.Snapshot,
            Camera = Camera(v.Info),
            Components = v.Info is { } info
                ? new
                {
                    info.Selection,
                    info.Visibility,
                    info.Colouring,
                }
                : null,
            Lines = v.Info?.Lines.Select(l => new { Start = Output.Numbers(l.Start), End = Output.Numbers(l.End) }),
            ClippingPlanes = v.Info?.ClippingPlanes.Select(p => new
            {
                Location = Output.Numbers(p.Location),
                Direction = Output.Numbers(p.Direction),
            }),
            Bitmaps = v.Info?.Bitmaps.Select(b => new
            {
                b.Format,
                b.Reference,
                Location = Output.Numbers(b.Location),
                Normal = Output.Numbers(b.Normal),
                Up = Output.Numbers(b.Up),
                b.Height,
            }),
        };

    private static object? Camera(ViewInfo? info) =>
        info is { Perspective: { } p } ? Camera("perspective", p, p.Extent, null)
        : info is { Orthogonal: { } o } ? Camera("parallel", o, null, o.Extent)
        : null;

    private static object Camera(string type, ViewCamera c, double? fieldOfView, double? viewToWorldScale) =>
        new
        {
            Type = type,
            ViewPoint = Output.Numbers(c.ViewPoint),
            Direction = Output.Numbers(c.Direction),
            Up = Output.Numbers(c.Up),
            FieldOfView = fieldOfView,
            ViewToWorldScale = viewToWorldScale,
            c.AspectRatio,
        };
}
