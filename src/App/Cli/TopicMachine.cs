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
        info?.Perspective is { } p
            ? new
            {
                Type = "perspective",
                ViewPoint = Output.Numbers(p.ViewPoint),
                Direction = Output.Numbers(p.Direction),
                Up = Output.Numbers(p.Up),
                FieldOfView = p.Extent,
                p.AspectRatio,
            }
        : info?.Orthogonal is { } o
            ? new
            {
                Type = "parallel",
                ViewPoint = Output.Numbers(o.ViewPoint),
                Direction = Output.Numbers(o.Direction),
                Up = Output.Numbers(o.Up),
                ViewToWorldScale = o.Extent,
                o.AspectRatio,
            }
        : null;
}
