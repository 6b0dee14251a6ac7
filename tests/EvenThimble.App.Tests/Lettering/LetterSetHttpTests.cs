using System.Net;
using System.Text.Json;
using EvenThimble.Core.Files.Jobs;
using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Stitches;
using EvenThimble.Scenario;
using EvenThimble.Web.Workroom;
using Microsoft.Extensions.DependencyInjection;

namespace EvenThimble.App.Tests.Lettering;

/// <summary>Letter sets, monograms and borders over real HTTP.</summary>
public sealed class LetterSetHttpTests() : BenchOverHttp(job: 2)
{
    private LetterSets Sets => Server.Services.GetRequiredService<LetterSets>();

    private static byte[] Letter(char c) => StitchFormats.Write(StitchFileKind.Evth2, OrbitBlock.Files.First(f => f.FileName == $"orbit_block_{c}.evth").Draw());

    private async Task<JsonElement> Ask(string handler, HttpStatusCode status, params (string Name, object Value)[] fields)
    {
        using var form = new MultipartFormDataContent();
        foreach (var (name, value) in fields)
        {
            if (value is byte[] bytes) form.Add(new ByteArrayContent(bytes), name, "letter.evth");
            else form.Add(new StringContent((string)value), name);
        }

        var answer = await Http.PostAsync($"/letters?handler={handler}", form);
        answer.StatusCode.ShouldBe(status);
        return JsonDocument.Parse(await answer.Content.ReadAsStringAsync()).RootElement;
    }

    [Fact]
    public async Task Files_are_brought_in_one_by_one_and_put_right()
    {
        var token = (await Ask("Begin", HttpStatusCode.OK, ("begin", "set"))).GetProperty("token").GetString()!;
        foreach (var c in "ABDE") await Ask("Lay", HttpStatusCode.OK, ("token", token), ("path", $"Mine/letter {c}.evth"), ("file", Letter(c)));
        await Ask("Lay", HttpStatusCode.OK, ("token", token), ("path", "Mine/sampler sheet.evth"), ("file", Letter('F')));
        (await Ask("Lay", HttpStatusCode.UnprocessableEntity, ("token", "none"), ("path", "x"), ("file", Letter('A')))).GetProperty("says").GetString()!.ShouldContain("too long ago");
        var id = (await Ask("Finish", HttpStatusCode.OK, ("token", token), ("name", "Mine"))).GetProperty("id").GetInt64();
        var page = WebUtility.HtmlDecode(await Http.GetStringAsync($"/letters/sets/{id}?words=ABQ"));
        page.ShouldContain("4 letters");
        page.ShouldContain("It has no Q; a gap is left there.");
        page.ShouldContain("Its name tells no letter");
        (await Http.GetAsync($"/letters/sets/{id}/word.png?text=ABE")).Content.Headers.ContentType!.MediaType.ShouldBe("image/png");
        (await Http.GetAsync($"/letters/sets/{id}/file")).Content.Headers.ContentDisposition!.FileName!.ShouldContain(".evset");
        (await Http.GetAsync("/letters/sets/999")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await Http.GetAsync("/letters/sets/999/word.png?text=A")).StatusCode.ShouldBe(HttpStatusCode.NotFound);

        async Task<(HttpStatusCode, string)> Mend(params (string, string)[] fields)
        {
            var answer = await Http.PostAsync($"/letters/sets/{id}?handler=Mend", new FormUrlEncodedContent(fields.Select(f => KeyValuePair.Create(f.Item1, f.Item2))));
            return (answer.StatusCode, WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync()));
        }

        var path = Sets.Find(id)!.Set.Files.First(f => f.Trouble is not null).File.Path;
        (await Mend(("version", "1"), ("path", path), ("character", "F"))).Item1.ShouldBe(HttpStatusCode.OK);
        Sets.Find(id)!.Set.Sizes[0].Letters.Keys.ShouldContain("F");
        (await Mend(("version", "1"), ("path", path), ("character", "G"))).Item2.ShouldContain("changed in another window");
        (await Mend(("version", "2"), ("path", path), ("character", "FG"))).Item2.ShouldContain("is not one character");
        (await Mend(("version", "2"), ("path", path), ("character", "F"), ("raised", "far"))).Item2.ShouldContain("is not a length");
        (await Mend(("version", "2"), ("path", "other.evth"), ("character", "F"))).Item2.ShouldContain("not in this set");
        var taken = await Http.PostAsync("/letters?handler=RemoveSet", new FormUrlEncodedContent([KeyValuePair.Create("id", id.ToString(System.Globalization.CultureInfo.InvariantCulture))]));
        (await taken.Content.ReadAsStringAsync()).ShouldContain("Took Mine out");
        Sets.Find(id).ShouldBeNull();
    }

    [Fact]
    public async Task What_is_no_letter_set_is_refused_and_nothing_stays()
    {
        var before = Sets.All.Count;
        var token = (await Ask("Begin", HttpStatusCode.OK, ("begin", "set"))).GetProperty("token").GetString()!;
        (await Ask("Finish", HttpStatusCode.UnprocessableEntity, ("token", token), ("name", "Empty"))).GetProperty("says").GetString()!.ShouldContain("no files");
        await Ask("Lay", HttpStatusCode.OK, ("token", token), ("path", "holiday.evth"), ("file", "not stitches"u8.ToArray()));
        (await Ask("Finish", HttpStatusCode.UnprocessableEntity, ("token", token), ("name", "None"))).GetProperty("says").GetString()!.ShouldContain("Name each after its letter");
        (await Ask("Lay", HttpStatusCode.UnprocessableEntity, ("token", token), ("path", "x.zip"), ("file", "PK\u0003\u0004 and nothing more"u8.ToArray()))).GetProperty("says").GetString()!.ShouldContain("damaged");
        (await Ask("Lay", HttpStatusCode.UnprocessableEntity, ("token", token))).GetProperty("says").GetString()!.ShouldContain("No file came");
        Sets.All.Count.ShouldBe(before);
    }

    [Fact]
    public async Task A_line_that_was_drawn_becomes_a_border_and_stays_when_the_line_is_taken_out()
    {
        (await Post("draw", ("kind", "line"), ("points", "-60,60 -57,56 -54,60"), ("closed", "false"))).StatusCode.ShouldBe(HttpStatusCode.OK);
        var line = Job.Order[^1];
        (string, string)[] form = [("around", "1"), ("frame", "own"), ("form", "Rectangle"), ("sides", "FourSides"), ("distance", "6")];
        (await Post("border", form)).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity, "no line was chosen");
        (await Post("border", [.. form, ("own", $"{Job.Order[0].Id.Value}")])).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity, "what it goes around is no line of its own");
        (await Post("border", [.. form, ("own", $"{line.Id.Value}")])).StatusCode.ShouldBe(HttpStatusCode.OK);
        var border = Job.Pieces[^1];
        ((BorderContent)border.Content).Wish.Frame.Own!.GoesOn.ShouldBeTrue();
        (await Post("remove", ("parts", $"{line.Id.Value}"))).StatusCode.ShouldBe(HttpStatusCode.OK);
        (await Post("border", [.. form.Where(f => f.Item1 != "distance"), ("piece", $"{border.Id.Value}"), ("own", ""), ("distance", "9")])).StatusCode.ShouldBe(HttpStatusCode.OK);
        ((BorderContent)Job.Pieces[^1].Content).Wish.ShouldBe(((BorderContent)border.Content).Wish with { DistanceMm = 9 });
    }

    [Fact]
    public async Task A_word_of_a_set_is_written_changed_to_a_font_and_back()
    {
        (string, string)[] form = [("text", "HALDEN"), ("font", OrbitBlock.Name), ("height", "25.3"), ("setThread", "usual"), ("optical", "true"), ("kerning", "true"), ("ownKerning", "true"), ("align", "Centre"), ("lines", "100"), ("words", "100")];
        (await Post("write", form)).StatusCode.ShouldBe(HttpStatusCode.OK);
        var written = Job.Pieces[^1].Content.ShouldBeOfType<LetterSetContent>();
        written.Letters.Length.ShouldBe(6);
        var piece = Job.Pieces[^1].Id.Value.ToString(System.Globalization.CultureInfo.InvariantCulture);
        (await Post("nudge", ("piece", piece), ("letter", "2"), ("by", "right"))).StatusCode.ShouldBe(HttpStatusCode.OK);
        Job.Pieces[^1].Content.ShouldBeOfType<LetterSetContent>().Letters[2].At.X.ShouldBeGreaterThan(written.Letters[2].At.X);
        (await Post("write", [.. form, ("piece", piece), ("apart", "true")])).StatusCode.ShouldBe(HttpStatusCode.OK);
        Job.Order.Count(p => p.Piece.Value.ToString(System.Globalization.CultureInfo.InvariantCulture) == piece).ShouldBe(6);
        (await Post("write", [.. form.Where(f => f.Item1 is not ("font" or "height")), ("height", "12"), ("font", "Archivo"), ("piece", piece)])).StatusCode.ShouldBe(HttpStatusCode.OK);
        Job.Pieces[^1].Content.ShouldBeOfType<LetteringContent>();
        (await Post("write", [.. form, ("piece", piece)])).StatusCode.ShouldBe(HttpStatusCode.OK);
        Job.Pieces[^1].Content.ShouldBeOfType<LetterSetContent>().Wish.Text.ShouldBe("HALDEN");
        var answer = await Post("write", [.. form, ("bend", "arch"), ("amount", "50")]);
        answer.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync()).ShouldContain("cannot be bent");
    }

    [Fact]
    public async Task A_job_carries_the_set_of_its_words_along_and_puts_it_where_it_is_not_at_hand()
    {
        (await Post("write", ("text", "ADA"), ("font", OrbitBlock.Name), ("height", "25.3"), ("setThread", "usual"), ("align", "Centre"), ("lines", "100"), ("words", "100"))).StatusCode.ShouldBe(HttpStatusCode.OK);
        var line = Sets.All.Single(s => s.Name == OrbitBlock.Name);
        Sets.Mend(line.Id, line.Version, s => s.With("orbit_block_A.evth", new() { RaisedMm = 0.5 }));
        var came = Sets.File(line.Id)!;
        var saved = await Http.GetByteArrayAsync("/jobs/2/case");
        JobArchive.FromBytes(saved).Sets.Single().Bytes.ShouldBe(came);
        Sets.Remove(line.Id).ShouldBe(OrbitBlock.Name);

        await Open(saved);
        var back = Sets.All.Single(s => s.Name == OrbitBlock.Name);
        Sets.File(back.Id).ShouldBe(came, "with all that was put right about it");
        await Open(saved);
        Sets.All.Count(s => s.Name.StartsWith(OrbitBlock.Name, StringComparison.Ordinal)).ShouldBe(1, "the one that is here stays");

        // A set that is none keeps all of the file out.
        var (sets, archive) = (Sets.All, JobArchive.FromBytes(saved));
        (await Sent((archive with { Sets = [new("None.evset", "PK\u0003\u0004 and nothing more"u8.ToArray())] }).ToBytes())).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        Sets.All.ShouldBe(sets);

        async Task Open(byte[] file) => (await Sent(file)).StatusCode.ShouldBe(HttpStatusCode.OK);

        async Task<HttpResponseMessage> Sent(byte[] file)
        {
            using var form = new MultipartFormDataContent { { new ByteArrayContent(file), "file", "words.evjob" } };
            return await Http.PostAsync("/?handler=Import", form);
        }
    }

    [Fact]
    public async Task What_cannot_be_is_refused_in_words_and_changes_nothing()
    {
        var before = Job;
        foreach (var (command, form, says) in new[]
        {
            ("monogram", "letters=&layout=circle&font=Archivo&size=60", "no letters yet"),
            ("monogram", "letters=ABC&layout=none&font=Archivo&size=60", "how the letters are laid"),
            ("monogram", "letters=ABC&layout=circle&font=Nowhere&size=60", "is not here"),
            ("monogram", "letters=ABC&layout=circle&font=Archivo&size=1", "from 8 to 500"),
            ("monogram", "letters=ABC&layout=circle&font=Archivo&size=20&frame=laurel", "no room for letters"),
            ("monogram", "letters=ABC&layout=circle&font=Archivo&size=60&frame=nothing", "around the letters"),
            ("monogram", "letters=ABC&layout=circle&font=Archivo&size=60&piece=99", "no longer in this job"),
            ("border", "frame=ring&distance=5", "Choose what the border goes around"),
            ("border", "frame=ring&distance=-5&around=1", "would lie over it"),
            ("border", "frame=ring&distance=wide&around=1", "not a length"),
            ("border", "frame=nothing&distance=5&around=1", "made of"),
            ("border", "frame=ring&distance=5&around=77", "Choose what the border goes around"),
            ("sew-before", "before=99", "Choose another part"),
            ("suit", "value=moleskin", "not known here"),
        })
        {
            var answer = await Post(command, [.. form.Split('&').Select(p => p.Split('=')).Select(p => (p[0], p[1])), ("order", "AsRead"), ("form", "AsLetters"), ("sides", "AllRound")]);
            answer.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity, form);
            WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync()).ShouldContain(says);
            Job.ShouldBe(before);
        }
    }

    [Fact]
    public async Task Layouts_frames_and_borders_have_pictures()
    {
        foreach (var there in new[] { "/letters/monogram.png?letters=OMB&layout=shield&frame=pearls&font=Archivo", "/letters/border.png?frame=motif-star" }) (await Http.GetAsync(there)).StatusCode.ShouldBe(HttpStatusCode.OK);
        foreach (var none in new[] { "/letters/monogram.png?letters=&layout=shield&font=Archivo", "/letters/monogram.png?letters=OMB&layout=none&font=Archivo", "/letters/border.png?frame=none" }) (await Http.GetAsync(none)).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }
}
