import { expect, test } from '@playwright/test'
import { accessible, fits, signIn } from '../support/app'

test('an introduction is asked of whoever knows somebody, stands on their first page, and is an entry once it is accepted', async ({
  browser,
}) => {
  const ines = await (await browser.newContext()).newPage()
  await signIn(ines)
  // Somebody whom another colleague has spoken with.
  await ines.getByRole('region', { name: 'Lists' }).getByRole('link', { name: 'Breweries and dairies' }).click()
  const people = ines.getByRole('table', { name: 'People' })
  await expect(
    people
      .getByRole('row')
      .filter({ hasText: /spoke|no answer|sent/ })
      .first(),
  ).toBeVisible()
  const hrefs = await people
    .getByRole('row')
    .filter({ hasText: /spoke/ })
    .getByRole('link')
    .evaluateAll((links) => links.map((link) => link.getAttribute('href') as string))
  const knows = ines.getByRole('region', { name: 'Who knows them' })
  const tam = knows.getByRole('listitem').filter({ hasText: 'Tam Reyes' })
  let href = ''
  for (href of hrefs) {
    await ines.goto(href)
    await expect(knows).toBeVisible()
    if ((await tam.count()) > 0) break
  }
  await expect(tam).toContainText(/spoke with|wrote to|met/)
  await accessible(ines)
  await fits(ines)
  await knows.getByLabel('Whether you know them').selectOption('met')
  await expect(knows.getByRole('listitem').filter({ hasText: 'You' })).toContainText('met')
  await tam.getByRole('button', { name: 'Ask for an introduction' }).click()
  await knows.getByLabel('What Tam Reyes should know').fill('They plan a new roof.')
  await knows.getByRole('button', { name: 'Ask Tam Reyes' }).click()
  await expect(knows).toContainText('Ines Okafor asked Tam Reyes for an introduction')
  // Somebody outside is recorded as knowing them, found by name.
  await knows.getByText('Somebody else knows them').click()
  await knows.getByLabel('Find them by name, organisation, email or phone').fill('hallow')
  const other = knows
    .getByRole('button', { name: /\w/ })
    .filter({ hasText: /Hallow/ })
    .first()
  const name = await other.locator('b').textContent()
  await other.click()
  await expect(knows).toContainText(`Outside the team ${name}`)

  const his = await (await browser.newContext()).newPage()
  await signIn(his, 'Tam Reyes')
  await his.goto('/today')
  await his.getByRole('link', { name: /Ines Okafor asks you to introduce them to/ }).click()
  await expect(his.getByText('They plan a new roof.')).toBeVisible()
  await his.getByLabel('Your answer').fill('I call them on Friday.')
  await his.getByRole('button', { name: 'Accept' }).click()
  await expect(his.getByText('Introduction accepted')).toBeVisible()
  await his.goto('/today')
  await expect(his.getByRole('link', { name: /Ines Okafor asks you to introduce them to/ })).toHaveCount(0)
})
