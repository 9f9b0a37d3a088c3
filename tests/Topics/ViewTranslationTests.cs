using SteadyLintel.Exchange;
using SteadyLintel.Geometry;
using SteadyLintel.Topics;

namespace SteadyLintel.Tests;

/// <summary>Views between BCF and the combined view, and between the frames of sources and the job.</summary>
public class ViewTranslationTests
{
    private const double Width = 1280,
        Height = 800;

    private static readonly ViewDocument View = new()
    {
        Eye = [12.5, -8.25, 6],
        At = [20, 4, 4.8],
        Cut = [0.5, 5.3],
        Planes =
        [
            [10, 0, 0, 1, 0, 0],
        ],
        Off = new ViewOff { Class = ["IfcSpace"] },
        Hidden = ["3cUkl32yn9qRSPvBJVyWYp"],
        Picked = ["1xS3BCk291UvhgP2dvNMKI", "2O2Fr$t4X7Zf8NOew3FNr2"],
        Colours = [new ViewPaint("b84a00", ["1xS3BCk291UvhgP2dvNMKI"])],
    };

    [Fact]
    public void A_view_is_the_same_after_it_was_a_viewpoint()
    {
        var info = ViewTranslation.FromDocument("g", View, true, View.Hidden, 1.6);
        var back = ViewTranslation.ToDocument(info);
        Assert.Equal(View.Eye, back.Eye);
        // A camera has a direction: it looks at a point on the same line.
        var wanted = (V(View.At!) - V(View.Eye!)).Unit();
        Assert.True(((V(back.At!) - V(back.Eye!)).Unit() - wanted).Length < 1e-12);
        Assert.Equal(View.Cut, back.Cut);
        Assert.Equal(View.Planes, back.Planes);
        Assert.Equal(View.Off.Class, back.Off.Class);
        Assert.Equal(View.Hidden, back.Hidden);
        Assert.Null(back.Only);
        Assert.Equal(View.Picked, back.Picked);
        Assert.Equal(View.Colours[0].Elements, back.Colours[0].Elements);
        Assert.Equal(ViewDocument.UsualDegrees, back.Degrees);
        Assert.Equal(1.6, info.Perspective!.AspectRatio);
    }

    [Fact]
    public void What_is_isolated_is_all_that_is_visible_by_default()
    {
        var view = View with { Only = ["1xS3BCk291UvhgP2dvNMKI"], Hidden = [], Off = new ViewOff() };
        var info = ViewTranslation.FromDocument("g", view, false, view.Only, null);
        Assert.False(info.Visibility!.Default);
        Assert.True(info.Visibility.Hints!.Spaces);
        var back = ViewTranslation.ToDocument(info);
        Assert.Equal(view.Only, back.Only);
        Assert.Empty(back.Off.Class);
    }

    // BCF 2.1 and 3.0: without DefaultVisibility nothing but the exceptions is visible; without Visibility everything is.
    [Fact]
    public void What_a_file_does_not_say_of_visibility_is_as_the_standard_has_it()
    {
        var exceptions = new[] { new ViewComponent("a", null, null) };
        Assert.Equal(
            ["a"],
            ViewTranslation.ToDocument(new ViewInfo { Visibility = new ViewVisibility(null, exceptions, null) }).Only
        );
        Assert.Null(ViewTranslation.ToDocument(new ViewInfo()).Only);
    }

    [Fact]
    public void A_parallel_view_keeps_its_height_and_looks_down_with_north_up()
    {
        var info = ViewTranslation.FromDocument(
            "g",
            new ViewDocument
            {
                Eye = [5, 5, 50],
                At = [5, 5, 0],
                Height = 24,
            },
            true,
            [],
            null
        );
        Assert.Null(info.Perspective);
        Assert.Equal(
            (24.0, -Vec3.AxisZ, Vec3.AxisY),
            (info.Orthogonal!.Extent, info.Orthogonal.Direction, info.Orthogonal.Up)
        );
        Assert.Equal(24, ViewTranslation.ToDocument(info).Height);
    }

    // A corner of an element is at the same point of the picture, whether model and camera are in the source's frame or in the job's:
    // projected here by the definition of a pinhole and of a parallel camera.
    [Theory]
    [InlineData(1, false)]
    [InlineData(0.3048, false)]
    [InlineData(1, true)]
    [InlineData(0.3048, true)]
    public void A_moved_view_shows_every_corner_at_the_same_pixel(double scale, bool parallel)
    {
        var random = new Random(7);
        for (int round = 0; round < 200; round++)
        {
            var frame = Turned(random, scale);
            var camera = new ViewCamera(
                Point(random, 50),
                Point(random, 1),
                Point(random, 1),
                parallel ? 30 : 47,
                null
            );
            var view = new ViewInfo { Perspective = parallel ? null : camera, Orthogonal = parallel ? camera : null };
            var moved = ViewMove.Into(view, frame);
            var back = ViewMove.Into(moved, frame.Inverse());
            for (int n = 0; n < 8; n++)
            {
                var corner = Point(random, 40);
                var here = Pixel(view, corner);
                Assert.True((here - Pixel(moved, frame.Point(corner))).Length < 1e-4, $"round {round}");
                Assert.True((here - Pixel(back, corner)).Length < 1e-4, $"round {round}, back");
            }
        }
    }

    [Fact]
    public void Planes_lines_and_bitmaps_move_with_the_view()
    {
        var full = TopicSamples.FullView();
        var frame = Frame.At(new Vec3(1000, -2000, 30));
        var moved = ViewMove.Into(full, frame);
        Assert.Equal(full.Lines.Select(l => l.Start + frame.Origin), moved.Lines.Select(l => l.Start));
        Assert.Equal(
            full.ClippingPlanes.Select(p => p.Location + frame.Origin),
            moved.ClippingPlanes.Select(p => p.Location)
        );
        Assert.Equal(full.Bitmaps.Select(b => b.Location + frame.Origin), moved.Bitmaps.Select(b => b.Location));
    }

    [Fact]
    public void A_topic_is_the_same_after_it_was_in_a_database()
    {
        var archive = TopicSamples.Full();
        foreach (var topic in archive.Topics)
        {
            var back = TopicJson.Read(TopicJson.Write(topic)) with { Parts = topic.Parts };
            Assert.Equal(TopicText.Of(topic), TopicText.Of(back));
        }

        var project = TopicJson.ReadProject(TopicJson.WriteProject(archive));
        Assert.Equal(
            TopicSamples.Entry(TopicSamples.Write(archive), "extensions.xml"),
            TopicSamples.Entry(TopicSamples.Write(archive with { Extensions = project.Extensions }), "extensions.xml")
        );
        Assert.Equal(archive.Documents, project.Documents);
    }

    [Theory]
    [InlineData(
        """{"width":100,"height":50,"marks":[{"path":"M1 2L3 4A5 5 0 0 1 6 7Z"},{"text":"a <b>","x":1,"y":2}]}""",
        true
    )]
    [InlineData("""{"width":100,"height":50,"marks":[{"path":"M1 2\" onload=\"x"}]}""", false)]
    [InlineData("""{"width":100,"height":50,"marks":[{"path":""}]}""", false)]
    [InlineData("""{"width":100,"height":50,"marks":[null]}""", false)]
    [InlineData("""{"width":0,"height":50,"marks":[]}""", false)]
    [InlineData("""{"width":100,"height":50}""", false)]
    [InlineData("[]", false)]
    [InlineData("{", false)]
    public void What_is_drawn_on_a_picture_is_paths_and_texts_and_nothing_else(string json, bool sound)
    {
        if (sound)
            Assert.Equal(2, PictureMarks.Read(PictureMarks.Read(json).Write()).Marks.Count);
        else
            Assert.Throws<OrderException>(() => PictureMarks.Read(json));
    }

    private static Vec3 V(IReadOnlyList<double> p) => new(p[0], p[1], p[2]);

    private static Vec3 Point(Random random, double reach) =>
        new(
            (random.NextDouble() - 0.5) * 2 * reach,
            (random.NextDouble() - 0.5) * 2 * reach,
            (random.NextDouble() - 0.5) * 2 * reach
        );

    private static Frame Turned(Random random, double scale)
    {
        double angle = random.NextDouble() * 2 * Math.PI;
        var (sin, cos) = Math.SinCos(angle);
        return new Frame(
            Point(random, 500),
            new Vec3(cos, sin, 0) * scale,
            new Vec3(-sin, cos, 0) * scale,
            Vec3.AxisZ * scale
        );
    }

    private static Vec2 Pixel(ViewInfo view, Vec3 p)
    {
        var camera = (view.Perspective ?? view.Orthogonal)!;
        var ahead = camera.Direction.Unit();
        var right = ahead.Cross(camera.Up).Unit();
        var up = right.Cross(ahead);
        var from = p - camera.ViewPoint;
        double metres = view.Perspective is null
            ? camera.Extent
            : 2 * Math.Abs(from.Dot(ahead)) * Math.Tan(camera.Extent * Math.PI / 360);
        return new Vec2(
            (Width / 2) + (from.Dot(right) / metres * Height),
            (Height / 2) - (from.Dot(up) / metres * Height)
        );
    }
}
