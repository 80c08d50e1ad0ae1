import { createToaster, Stack, Toast, Toaster as Toasts } from '@chakra-ui/react';

/** Short messages that come by themselves: something that the player did could not be stored. */
export const toaster = createToaster({ placement: 'bottom-end', pauseOnPageIdle: true });

/** Where they appear. */
export const Toaster = () => (
  <Toasts toaster={toaster} insetInline={{ mdDown: '4' }}>
    {(toast) => (
      <Toast.Root
        width={{ md: 'sm' }}
        background="page"
        color="ink"
        border="1px solid"
        borderColor="ink"
        borderRadius="control"
      >
        <Stack gap="1" flex="1">
          <Toast.Title fontSize="16px">{toast.title}</Toast.Title>
          {toast.description && <Toast.Description color="quiet">{toast.description}</Toast.Description>}
        </Stack>
        {toast.action && (
          <Toast.ActionTrigger color="now" textDecoration="underline" background="transparent" fontSize="16px">
            {toast.action.label}
          </Toast.ActionTrigger>
        )}
        <Toast.CloseTrigger color="ink" aria-label="Close" />
      </Toast.Root>
    )}
  </Toasts>
);
