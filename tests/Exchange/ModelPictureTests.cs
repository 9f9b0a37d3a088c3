using SteadyLintel.Cad;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

public class ModelPictureTests(DemoModels demo) : IClassFixture<DemoModels>
{
    private static (byte R, byte G, byte B) At(Raster picture, int x, int y)
    {
        int n = 3 * ((y * picture.Width) + x);
        return (picture.Rgb[n], picture.Rgb[n + 1], picture.Rgb[n + 2]);
    }

    private static readonly (byte, byte, byte) Paper = (0xF4, 0xEF, 0xE6);

    [Fact]
    public void A_model_fills_its_picture_and_leaves_the_margin()
    {
        var picture = ModelPicture.Of(demo.Snapshots["STR"], 320, 180)!;
        Assert.Equal(320 * 180 * 3, picture.Rgb.Length);
        int inked = Enumerable.Range(0, 320 * 180).Count(n => At(picture, n % 320, n / 320) != Paper);
        Assert.InRange(inked, 320 * 180 / 20, 320 * 180 * 9 / 10);
        Assert.All(Enumerable.Range(0, 320), x => Assert.Equal(Paper, At(picture, x, 0)));
    }

    [Fact]
    public void Of_two_bodies_in_line_the_nearer_is_seen_in_its_colour()
    {
        // The viewer is at +x, −y, +z: of two boxes on that line the red one is in front.
        var drawing = NewDrawing();
        Put(drawing, new Vec3(0, 0, 0), 5);
        Put(drawing, new Vec3(6.2, -9.5, 6.2), 1);
        var picture = ModelPicture.Of(drawing, 100, 100)!;
        var (r, g, b) = At(picture, 50, 50);
        Assert.True(r > 2 * g && r > 2 * b, $"{r} {g} {b}");
    }

    // On the map a building is five thousand kilometres from zero.
    [Fact]
    public void A_body_far_from_the_origin_has_the_picture_that_it_has_near_it()
    {
        Raster Of(Vec3 at)
        {
            var drawing = NewDrawing();
            for (int n = 0; n < 4; n++)
                Put(drawing, at + new Vec3(2 * n, n, 0), 1 + n);
            return ModelPicture.Of(drawing, 120, 90)!;
        }

        var (near, far) = (Of(Vec3.Zero), Of(new Vec3(512_000, 5_407_000, 120)));
        Assert.InRange(near.Rgb.Zip(far.Rgb).Count(p => Math.Abs(p.First - p.Second) > 8), 0, near.Rgb.Length / 100);
    }

    [Fact]
    public void What_has_no_body_has_no_picture() => Assert.Null(ModelPicture.Of(NewDrawing(), 100, 100));

    private static Drawing NewDrawing()
    {
        var drawing = new Drawing();
        drawing.Complete();
        return drawing;
    }

    private static void Put(Drawing drawing, Vec3 at, int colour)
    {
        var box = new MeshEntity { Colour = new CadColour((short)colour) };
        for (int n = 0; n < 8; n++)
            box.Points.Add(at + new Vec3(n & 1, (n >> 1) & 1, (n >> 2) & 1));
        foreach (
            int[] face in (int[][])
                [
                    [0, 2, 3, 1],
                    [4, 5, 7, 6],
                    [0, 1, 5, 4],
                    [2, 6, 7, 3],
                    [0, 4, 6, 2],
                    [1, 3, 7, 5],
                ]
        )
            box.Faces.AddRange([4, .. face]);
        drawing.Add(box, drawing.Model);
    }
}
